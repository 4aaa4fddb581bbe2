import type { ReactNode } from 'react';

export interface Figure {
  readonly label: string;
  readonly value: ReactNode;
  /** Trouble is set in brick and bold. */
  readonly isTrouble?: boolean;
}

interface Props {
  readonly list: readonly (Figure | null)[];
  /** In as many columns as there is room for. */
  readonly wide?: boolean;
}

/** Names and figures under each other. */
export function Figures({ list, wide = false }: Props) {
  const row = wide ? 'grid grid-cols-[8.5rem_1fr] gap-x-3 break-inside-avoid' : 'col-span-2 grid grid-cols-subgrid';
  return (
    <dl
      className={`text-sm ${wide ? 'w-full columns-[18rem] gap-x-8' : 'grid grid-cols-[auto_auto] content-start gap-x-4'}`}
    >
      {list.map(
        (figure) =>
          figure && (
            <div key={figure.label} className={row}>
              <dt className="text-graphite">{figure.label}</dt>
              <dd className={`figure ${figure.isTrouble ? 'font-semibold text-brick' : ''}`}>{figure.value}</dd>
            </div>
          ),
      )}
    </dl>
  );
}
