import { formFields } from '@tambur/core';
import { useMemo } from 'react';
import type { GenericSchema } from 'valibot';
import { FieldInput } from './field-input.tsx';

type Values = Readonly<Record<string, unknown>>;

interface Props {
  readonly schema: GenericSchema;
  readonly value: unknown;
  /** Entries that are asked for somewhere else. */
  readonly isLeftOut?: (key: string) => boolean;
  readonly onChange: (value: unknown) => void;
}

/** A value with one entry changed; what is empty is left out if it may be. */
function withEntry(value: unknown, key: string, entry: unknown, isOptional: boolean): unknown {
  if (key === '') return entry;
  const { [key]: _, ...rest } = value as Values;
  return entry === undefined || (entry === false && isOptional) ? rest : { ...rest, [key]: entry };
}

/** What a schema says that a form asks: of a requirement, a trait, a face. */
export function FormEntries({ schema, value, isLeftOut = () => false, onChange }: Props) {
  const fields = useMemo(() => formFields(schema), [schema]);
  const asked = fields.filter(({ key }) => !isLeftOut(key));
  return asked.map((field) => (
    <FieldInput
      key={field.key}
      field={field}
      value={field.key === '' ? value : (value as Values)[field.key]}
      onChange={(entry) => onChange(withEntry(value, field.key, entry, field.isOptional))}
    />
  ));
}
