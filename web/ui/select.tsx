import { Field, Label, Listbox, ListboxButton, ListboxOption, ListboxOptions } from '@headlessui/react';
import { Check, ChevronDown } from 'lucide-react';
import type { ReactNode } from 'react';

interface Props<T> {
  readonly label: ReactNode;
  /** True: the label is for those who cannot see, as others see what is meant. */
  readonly isLabelHidden?: boolean;
  /** Null: nothing is chosen, and `placeholder` stands there. */
  readonly value: T | null;
  readonly placeholder?: string;
  readonly options: readonly { readonly value: T; readonly label: string }[];
  readonly onChange: (value: T) => void;
}

/** One of many: a list that opens; arrow keys and first letters move in it. */
export function Select<T extends string>({
  label,
  isLabelHidden = false,
  value,
  placeholder = '',
  options,
  onChange,
}: Props<T>) {
  const chosen = options.find((option) => option.value === value)?.label ?? placeholder;
  return (
    <Field className="block min-w-0">
      <Label className={isLabelHidden ? 'sr-only' : 'label'}>{label}</Label>
      <Listbox value={value} onChange={(next: T | null) => next !== null && onChange(next)}>
        <ListboxButton
          className={`flex w-full min-w-0 items-center gap-2 border border-rule bg-sheet px-2 py-1 text-left hover:border-ink data-focus:outline-2 data-focus:outline-offset-2 data-focus:outline-pine ${isLabelHidden ? '' : 'mt-1'}`}
        >
          <span className="min-w-0 flex-1 truncate">{chosen}</span>
          <ChevronDown className="size-3.5 shrink-0 text-graphite" aria-hidden />
        </ListboxButton>
        <ListboxOptions
          anchor={{ to: 'bottom start', gap: 2, padding: 8 }}
          className="z-50 max-h-80 min-w-(--button-width) overflow-auto border border-ink bg-sheet py-1 outline-none"
        >
          {options.map((option) => (
            <ListboxOption
              key={option.value}
              value={option.value}
              className="group flex cursor-pointer items-center gap-2 px-2 py-1 data-focus:bg-pine-tint data-selected:font-semibold"
            >
              <Check className="invisible size-3.5 shrink-0 text-pine group-data-selected:visible" aria-hidden />
              {option.label}
            </ListboxOption>
          ))}
        </ListboxOptions>
      </Listbox>
    </Field>
  );
}
