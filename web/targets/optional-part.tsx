import type { Field } from '@tambur/core';
import { Toggle } from '../ui/toggle.tsx';
import { FieldInput } from './field-input.tsx';

type Values = Readonly<Record<string, unknown>>;

interface Props {
  /** What the switch says. */
  readonly label: string;
  readonly fields: readonly Field[];
  /** What it starts as when it is switched on. */
  readonly usual: Values;
  readonly value: Values | undefined;
  readonly onChange: (value: Values | undefined) => void;
}

/** A part of a sheet that may be left out: a switch, and its entries after it. */
export function OptionalPart({ label, fields, usual, value, onChange }: Props) {
  return (
    <fieldset
      aria-label={label}
      className="mt-2 grid min-h-9 items-center gap-x-6 gap-y-2 sm:grid-cols-[17rem_minmax(0,1fr)]"
    >
      <Toggle label={label} value={value !== undefined} onChange={(isOn) => onChange(isOn ? usual : undefined)} />
      {value && (
        <div className="flex flex-wrap items-end gap-x-6 gap-y-2 text-sm">
          {fields.map((field) => (
            <FieldInput
              key={field.key}
              field={field}
              value={value[field.key]}
              onChange={(entry) => {
                const rest = Object.fromEntries(Object.entries(value).filter(([key]) => key !== field.key));
                onChange(entry === undefined ? rest : { ...rest, [field.key]: entry });
              }}
            />
          ))}
        </div>
      )}
    </fieldset>
  );
}
