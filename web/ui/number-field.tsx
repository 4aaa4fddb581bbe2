import { clamp, type Range } from '@tambur/core';
import { useEffect, useState } from 'react';

interface Props {
  readonly label: string;
  readonly value: number;
  readonly unit: string;
  readonly decimals?: number;
  readonly range: Range;
  readonly onChange: (value: number) => void;
}

/**
 * A number that is typed: taken on Enter or when the field is left. What is out of range is taken at the nearest end,
 * what is no number is put back. Escape puts back too.
 */
export function NumberField({ label, value, unit, decimals = 0, range, onChange }: Props) {
  const shown = value.toFixed(decimals);
  const [text, setText] = useState(shown);
  useEffect(() => setText(shown), [shown]);

  const take = () => {
    const typed = Number(text.replace(',', '.').replace(/[\s\u202f]/g, ''));
    if (text.trim() === '' || !Number.isFinite(typed)) setText(shown);
    else {
      const taken = clamp(typed, range.least, range.most);
      setText(taken.toFixed(decimals));
      if (taken.toFixed(decimals) !== shown) onChange(taken);
    }
  };

  return (
    <label className="block">
      <span className="label">{label}</span>
      <span className="mt-1 flex items-baseline gap-1.5 border-b border-rule focus-within:border-pine">
        <input
          inputMode="decimal"
          className="figure w-24 min-w-0 flex-1 bg-transparent py-1 outline-none"
          value={text}
          onChange={(event) => setText(event.target.value)}
          onBlur={take}
          onKeyDown={(event) => {
            if (event.key === 'Enter') take();
            if (event.key === 'Escape') setText(shown);
          }}
        />
        <span className="text-sm text-graphite">{unit}</span>
      </span>
    </label>
  );
}
