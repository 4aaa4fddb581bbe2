import { Label, Radio, RadioGroup } from '@headlessui/react';
import type { ReactNode } from 'react';

export interface Option<T> {
  readonly value: T;
  readonly label: ReactNode;
  readonly detail?: ReactNode;
}

interface Props<T> {
  readonly name: string;
  readonly options: readonly Option<T>[];
  readonly value: T;
  readonly onChange: (value: T) => void;
}

/** One of a few, all visible; arrow keys move. */
export function Choice<T>({ name, options, value, onChange }: Props<T>) {
  return (
    <RadioGroup value={value} onChange={onChange}>
      <Label className="label">{name}</Label>
      <div className="mt-1.5 flex flex-wrap gap-1.5">
        {options.map((option) => (
          <Radio
            key={String(option.value)}
            value={option.value}
            className="flex cursor-pointer items-baseline gap-2 border border-rule px-2.5 py-1 lg:py-0.5 lg:text-[0.9375rem] data-checked:border-pine data-checked:bg-pine-tint data-checked:font-semibold data-focus:outline-2 data-focus:outline-offset-2 data-focus:outline-pine"
          >
            <span className="whitespace-nowrap">{option.label}</span>
            {option.detail && <span className="figure font-normal text-graphite">{option.detail}</span>}
          </Radio>
        ))}
      </div>
    </RadioGroup>
  );
}
