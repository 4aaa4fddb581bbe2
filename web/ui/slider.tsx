import type { NumberRange } from '@tambur/core';

interface Props {
  readonly label: string;
  /** The value in words: what is read out, and shown at the end. */
  readonly shown: string;
  readonly value: number;
  readonly range: NumberRange;
  readonly step: number;
  readonly onChange: (value: number) => void;
}

/** A number that is found by trying. */
export function Slider({ label, shown, value, range, step, onChange }: Props) {
  return (
    <label className="block">
      <span className="flex items-baseline justify-between gap-3">
        <span className="label">{label}</span>
        <span className="figure text-sm">{shown}</span>
      </span>
      <input
        type="range"
        className="mt-1 w-full accent-pine"
        aria-valuetext={shown}
        value={value}
        min={range.least}
        max={range.most}
        step={step}
        onChange={(event) => onChange(Number(event.target.value))}
      />
    </label>
  );
}
