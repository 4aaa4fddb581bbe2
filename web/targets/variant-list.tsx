import type { Requirement, Variant } from '@tambur/core';
import { Button } from '../ui/button.tsx';
import { TextField } from '../ui/field.tsx';
import { Toggle } from '../ui/toggle.tsx';
import { RequirementRows } from './requirement-rows.tsx';

interface Props {
  readonly variants: readonly Variant[];
  /** Of the sheet itself. */
  readonly requirements: readonly Requirement[];
  readonly onChange: (variants: readonly Variant[]) => void;
}

/** The variants of a sheet: the name of each, and what it asks instead. */
export function VariantList({ variants, requirements: own, onChange }: Props) {
  const replace = (index: number, change: Partial<Variant>) =>
    onChange(variants.map((entry, i) => (i === index ? { ...entry, ...change } : entry)));
  return (
    <div className="mt-2 grid gap-5">
      {variants.map((variant, index) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: a variant's name is what is being edited
        <section key={index} aria-label={`Variant ${variant.name}`} className="border-l-4 border-hairline pl-4">
          <div className="mb-2 flex items-end gap-3">
            <TextField
              label="Name of the variant"
              value={variant.name}
              maxLength={60}
              onChange={(event) => replace(index, { name: event.target.value })}
            />
            <Button onClick={() => onChange(variants.filter((_, i) => i !== index))}>Remove</Button>
          </div>
          <div className="mb-3 flex flex-wrap items-end gap-x-6 gap-y-2">
            <Toggle
              label="Goes by the firmware of the device"
              value={variant.firmware !== undefined}
              onChange={(isOn) => {
                const { firmware: _, ...rest } = variant;
                onChange(
                  variants.map((entry, i) => (i === index ? { ...rest, ...(isOn ? { firmware: {} } : {}) } : entry)),
                );
              }}
            />
            {variant.firmware &&
              (['from', 'upTo'] as const).map((end) => (
                <TextField
                  key={end}
                  label={end === 'from' ? 'From firmware' : 'Up to firmware'}
                  className="w-28"
                  value={variant.firmware?.[end] ?? ''}
                  onChange={({ target: { value } }) => {
                    const { [end]: _, ...other } = variant.firmware ?? {};
                    replace(index, { firmware: value === '' ? other : { ...other, [end]: value } });
                  }}
                />
              ))}
          </div>
          <RequirementRows
            parts={{ requirements: variant.replace.requirements ?? [], player: variant.replace.player ?? {} }}
            instead={own}
            onChange={({ requirements, player }) =>
              replace(index, { replace: { ...variant.replace, requirements: [...requirements], player } })
            }
          />
        </section>
      ))}
      <div>
        <Button onClick={() => onChange([...variants, { id: '', name: 'older firmware', replace: {}, without: [] }])}>
          Add a variant
        </Button>
      </div>
    </div>
  );
}
