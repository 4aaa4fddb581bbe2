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
    <div className="mt-2">
      <Toggle label={label} value={value !== undefined} onChange={(isOn) => onChange(isOn ? usual : undefined)} />
      {value && (
        <div className="mt-2 flex flex-wrap items-end gap-x-6 gap-y-2 text-sm">
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
    </div>
  );
}
