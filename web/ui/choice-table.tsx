import { Label, Radio, RadioGroup } from '@headlessui/react';
import type { ReactNode } from 'react';

export interface ChoiceRow<T> {
  readonly value: T;
  readonly label: ReactNode;
  /** One for each column after the first. */
  readonly figures?: readonly (ReactNode | undefined)[];
}

interface Props<T> {
  readonly name: string;
  /** Heads of the columns of figures. */
  readonly columns: readonly string[];
  readonly rows: readonly ChoiceRow<T>[];
  readonly value: T;
  readonly onChange: (value: T) => void;
}

/** One of a few, in rows whose figures stand below each other; arrow keys move. */
export function ChoiceTable<T>({ name, columns, rows, value, onChange }: Props<T>) {
  return (
    <RadioGroup
      value={value}
      onChange={onChange}
      className="grid content-start text-sm"
      style={{ gridTemplateColumns: `auto repeat(${columns.length}, auto)` }}
    >
      <div className="col-span-full grid grid-cols-subgrid items-baseline pb-0.5 text-graphite">
        <Label className="label pr-4 whitespace-nowrap">{name}</Label>
        {columns.map((column) => (
          <span key={column} className="pr-2 pl-3 text-right text-xs">
            {column}
          </span>
        ))}
      </div>
      {rows.map((row) => (
        <Radio
          key={String(row.value)}
          value={row.value}
          className="group col-span-full grid cursor-pointer grid-cols-subgrid items-baseline border-t border-hairline py-[0.15rem] lg:py-[0.06rem] hover:bg-paper data-checked:bg-pine-tint data-focus:outline-2 data-focus:-outline-offset-2 data-focus:outline-pine"
        >
          <span className="flex items-center gap-2 pr-4 pl-1.5 whitespace-nowrap group-data-checked:font-semibold">
            <span
              aria-hidden
              className="size-2.5 shrink-0 rounded-full border border-pine group-data-checked:bg-pine"
            />
            {row.label}
          </span>
          {columns.map((column, i) => (
            <span key={column} className="figure pr-2 pl-3 text-right whitespace-nowrap text-graphite">
              {row.figures?.[i]}
            </span>
          ))}
        </Radio>
      ))}
    </RadioGroup>
  );
}
