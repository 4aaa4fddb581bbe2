import { clamp, type NumberRange } from '@tambur/core';
import { useDraft } from './draft.ts';
import { TextField } from './field.tsx';
import { numberIn } from './number-in.ts';

interface Props {
  readonly label: string;
  readonly value: number;
  readonly unit: string;
  readonly decimals?: number;
  readonly range: NumberRange;
  readonly onChange: (value: number) => void;
}

/**
 * A number that is typed: taken on Enter or when the field is left. What is out of range is taken at the nearest end,
 * what is not a number is put back. Escape puts back too.
 */
export function NumberField({ label, value, unit, decimals = 0, range, onChange }: Props) {
  const shown = value.toFixed(decimals);
  const draft = useDraft(shown, (text) => {
    const number = numberIn(text);
    if (number === null) return null;
    const taken = clamp(number, range.least, range.most);
    const words = taken.toFixed(decimals);
    if (words !== shown) onChange(taken);
    return words;
  });
  return <TextField label={label} unit={unit} inputMode="decimal" className="figure w-24" {...draft} />;
}
