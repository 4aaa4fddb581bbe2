import type { GenericSchema } from 'valibot';
import { Toggle } from '../ui/toggle.tsx';
import { FormEntries } from './form-entries.tsx';

interface Props<V> {
  /** What the switch says. */
  readonly label: string;
  readonly schema: GenericSchema;
  /** What it starts as when it is switched on. */
  readonly usual: V;
  readonly value: V | undefined;
  readonly onChange: (value: V | undefined) => void;
}

/** A part of a sheet that may be left out: a switch, and its entries after it. */
export function OptionalPart<V>({ label, schema, usual, value, onChange }: Props<V>) {
  return (
    <fieldset
      aria-label={label}
      className="mt-2 grid min-h-9 items-center gap-x-6 gap-y-2 sm:grid-cols-[17rem_minmax(0,1fr)]"
    >
      <Toggle label={label} value={value !== undefined} onChange={(isOn) => onChange(isOn ? usual : undefined)} />
      {value !== undefined && (
        <div className="flex flex-wrap items-end gap-x-6 gap-y-2 text-sm">
          <FormEntries schema={schema} value={value} onChange={(changed) => onChange(changed as V)} />
        </div>
      )}
    </fieldset>
  );
}
