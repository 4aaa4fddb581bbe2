import { firmwareQuestion, type Target, variantForFirmware } from '@tambur/core';
import { useState } from 'react';
import { Choice } from '../ui/choice.tsx';
import { TextField } from '../ui/field.tsx';

interface Props {
  readonly target: Pick<Target, 'variants'>;
  readonly value: string | null;
  readonly onChange: (value: string | null) => void;
}

/** Which variant of a sheet; nothing if there is only one. Where the firmware decides, that is asked first. */
export function VariantChoice({ target, value, onChange }: Props) {
  const { variants } = target;
  if (variants.length === 0) return null;
  const question = firmwareQuestion(target);
  return (
    <>
      {question === 'number' && <FirmwareField target={target} value={value} onChange={onChange} />}
      <Choice
        name={question === 'older' ? 'Is its firmware older or newer?' : 'Variant'}
        value={value}
        onChange={onChange}
        options={[
          { value: null, label: question === 'older' ? 'newer' : 'usual' },
          ...variants.map(({ id, name }) => ({ value: id, label: name })),
        ]}
      />
    </>
  );
}

/** The number of the firmware, which chooses the variant, with its reason. */
function FirmwareField({ target, value, onChange }: Props) {
  const [typed, setTyped] = useState('');
  const found = variantForFirmware(target, typed);
  return (
    <div className="mb-3 max-w-80">
      <TextField
        label="Which firmware has it?"
        value={typed}
        placeholder="2.1"
        inputMode="decimal"
        onChange={({ target: { value: text } }) => {
          setTyped(text);
          const next = variantForFirmware(target, text);
          if (next && next.variant !== value) onChange(next.variant);
        }}
      />
      <p className="mt-1 text-sm text-graphite" role="status">
        {found && found.variant === value ? found.why : ''}
      </p>
    </div>
  );
}
