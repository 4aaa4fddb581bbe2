import {
  Description,
  Field as Group,
  Input,
  type InputProps,
  Label,
  Textarea,
  type TextareaProps,
} from '@headlessui/react';
import type { ReactNode, Ref } from 'react';
import { useDraft } from './draft.ts';

interface FieldProps {
  readonly label: ReactNode;
  /** True: the label is for those who cannot see, as others see what is meant. */
  readonly isLabelHidden?: boolean;
  /** Follows what is typed. */
  readonly unit?: ReactNode;
  /** Precedes it. */
  readonly icon?: ReactNode;
}

/** The label and the line of every field that is typed into. */
function Field({ label, isLabelHidden = false, unit, icon, children }: FieldProps & { readonly children: ReactNode }) {
  return (
    <Group className="block min-w-0">
      <Label className={isLabelHidden ? 'sr-only' : 'label'}>{label}</Label>
      <span
        className={`flex items-baseline gap-1.5 border-b border-rule focus-within:border-pine has-aria-invalid:border-brick ${isLabelHidden ? '' : 'mt-1'}`}
      >
        {icon && <span className="self-center text-graphite">{icon}</span>}
        {children}
        {unit && (
          <Description as="span" className="text-sm text-graphite">
            {unit}
          </Description>
        )}
      </span>
    </Group>
  );
}

const typed = 'min-w-0 flex-1 bg-transparent py-1 outline-none placeholder:text-graphite';

/** One line of text; every keystroke is reported. */
export function TextField({
  className = 'w-full',
  label,
  isLabelHidden = false,
  unit,
  icon,
  ...rest
}: FieldProps & InputProps & { readonly className?: string; readonly ref?: Ref<HTMLElement> }) {
  return (
    <Field label={label} isLabelHidden={isLabelHidden} unit={unit} icon={icon}>
      <Input className={`${typed} ${className}`} {...rest} />
    </Field>
  );
}

/** Several lines of text; every keystroke is reported. */
export function TextArea({
  className = '',
  label,
  ...rest
}: Pick<FieldProps, 'label'> & TextareaProps & { readonly className?: string; readonly ref?: Ref<HTMLElement> }) {
  return (
    <Field label={label}>
      <Textarea className={`${typed} w-full ${className}`} {...rest} />
    </Field>
  );
}

interface DraftProps extends FieldProps {
  readonly value: string;
  /** Whether what is typed can be taken; what cannot is marked, and put back in the end. */
  readonly isValid?: (text: string) => boolean;
  readonly onChange: (text: string) => void;
  readonly className?: string;
  readonly inputMode?: 'text' | 'decimal';
}

/** One line of text that counts once it is finished. */
export function DraftField({ value, isValid = () => true, onChange, className = 'w-44', ...rest }: DraftProps) {
  const draft = useDraft(value, (text) => {
    if (!isValid(text)) return null;
    onChange(text);
    return text;
  });
  return (
    <TextField
      className={`figure ${className}`}
      spellCheck={false}
      invalid={!isValid(draft.value)}
      {...rest}
      {...draft}
    />
  );
}

interface TitleProps {
  readonly label: string;
  readonly value: string;
  readonly onChange: (title: string) => void;
  /** Size and weight of the letters. */
  readonly className: string;
}

/** A heading that can be written over; an empty one is put back. */
export function TitleField({ label, value, onChange, className }: TitleProps) {
  const draft = useDraft(value, (text) => {
    const wanted = text.trim();
    if (!wanted) return null;
    if (wanted !== value) onChange(wanted);
    return wanted;
  });
  return (
    <Input
      aria-label={label}
      className={`field-sizing-content max-w-full border-b border-transparent bg-transparent tracking-tight hover:border-rule focus:border-pine focus:outline-none ${className}`}
      maxLength={120}
      {...draft}
    />
  );
}
