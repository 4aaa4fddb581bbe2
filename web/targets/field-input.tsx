import type { FormField } from '@tambur/core';
import { X } from 'lucide-react';
import { useEffect, useState } from 'react';
import { Button } from '../ui/button.tsx';
import { TextField } from '../ui/field.tsx';
import { numberIn } from '../ui/number-in.ts';
import { Select } from '../ui/select.tsx';
import { Toggle } from '../ui/toggle.tsx';

interface Props {
  readonly field: FormField;
  readonly value: unknown;
  readonly onChange: (value: unknown) => void;
}

/** What was typed as a number, or as it stands where it is none: the schema then says what is wrong. */
const numberOr = (text: string): unknown => numberIn(text) ?? text.trim();

const parts = (text: string) =>
  text
    .split(/[,;\n]+/)
    .map((part) => part.trim())
    .filter(Boolean);

function typedValue({ type, isOptional }: FormField, text: string): unknown {
  if (text.trim() === '' && isOptional) return undefined;
  if (type === 'number') return numberOr(text);
  if (type === 'list') return parts(text).map(numberOr);
  if (type === 'rates') return parts(text).map((part) => (part.includes('/') ? part : numberOr(part)));
  return text;
}

const textOf = (value: unknown): string =>
  Array.isArray(value) ? value.join(', ') : value === undefined ? '' : String(value);

/** One entry of a requirement, asked for as its kind wants it. */
export function FieldInput({ field, value, onChange }: Props) {
  if (field.type === 'flag') return <Toggle label={field.label} value={value === true} onChange={onChange} />;
  if (field.type === 'choice') return <OneOf field={field} value={value} onChange={onChange} />;
  if (field.type === 'choices') return <SomeOf field={field} value={value} onChange={onChange} />;
  return <Typed field={field} value={value} onChange={onChange} />;
}

function Typed({ field, value, onChange }: Props) {
  const shown = textOf(value);
  const [text, setText] = useState(shown);
  // What comes from elsewhere, such as a picked rate, replaces what was typed.
  useEffect(() => {
    setText((before) => (textOf(typedValue(field, before)) === shown ? before : shown));
  }, [field, shown]);
  return (
    <TextField
      label={
        <>
          {field.label}
          {field.isOptional && <span className="font-normal normal-case"> (may be empty)</span>}
        </>
      }
      unit={field.unit}
      inputMode={field.type === 'number' ? 'decimal' : 'text'}
      className={`figure ${field.type === 'number' ? 'w-24' : 'w-56'}`}
      value={text}
      onChange={(event) => {
        setText(event.target.value);
        onChange(typedValue(field, event.target.value));
      }}
    />
  );
}

/** Stands for a choice that is left open. */
const OPEN = '';

function OneOf({ field, value, onChange }: Props) {
  return (
    <Select
      label={field.label}
      value={value === undefined ? OPEN : String(value)}
      onChange={(next) => onChange(next === OPEN ? undefined : next)}
      options={[...(field.isOptional ? [{ value: OPEN, label: 'does not matter' }] : []), ...(field.options?.() ?? [])]}
    />
  );
}

/** Several in an order: the preferred one first. */
function SomeOf({ field, value, onChange }: Props) {
  const chosen = Array.isArray(value) ? value.map(String) : [];
  const options = field.options?.() ?? [];
  const rest = options.filter((option) => !chosen.includes(option.value));
  const labelOf = (id: string) => options.find((option) => option.value === id)?.label ?? id;
  return (
    <fieldset className="max-w-full min-w-0">
      <legend className="label">{field.label}, the preferred one first</legend>
      <div className="mt-1 flex flex-wrap items-center gap-1.5">
        {chosen.map((id) => (
          <span key={id} className="inline-flex items-center border border-pine bg-pine-tint pl-2 text-sm">
            {labelOf(id)}
            <Button
              kind="quiet"
              aria-label={`Without ${labelOf(id)}`}
              disabled={chosen.length === 1}
              onClick={() => onChange(chosen.filter((entry) => entry !== id))}
            >
              <X className="size-3.5" aria-hidden />
            </Button>
          </span>
        ))}
        <div className="text-sm">
          <Select
            label={`${field.label}: one more`}
            isLabelHidden
            value={null}
            placeholder="one more …"
            options={rest}
            onChange={(id) => onChange([...chosen, id])}
          />
        </div>
      </div>
    </fieldset>
  );
}
