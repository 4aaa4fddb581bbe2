import { type Chain, checkFile, type StationId, type Target } from '@tambur/core';
import type { SourceView } from '@tambur/server';
import { useMemo } from 'react';
import { Button } from '../ui/button.tsx';
import { Fold } from '../ui/fold.tsx';
import { unbroken } from '../ui/unbroken.ts';
import { VerdictMark } from '../ui/verdict.tsx';
import { readingOrder, type SheetRow, sheetRows } from './sheet-rows.ts';
import type { PreviewState } from './use-preview.ts';

interface Props {
  readonly target: Target;
  readonly chain: Chain | null;
  readonly source: SourceView;
  readonly preview: PreviewState;
  readonly className: string;
  readonly onChange: (station: StationId, wish: unknown) => void;
}

/** The sheet, each requirement answered: what is wanted, what the source was, what the result is. */
export function TargetSheet({ target, chain, source, preview, className, onChange }: Props) {
  const before = useMemo(() => checkFile(target, source.facts, source.name), [target, source]);
  const { made, refused } = preview;
  const { open, folded } = readingOrder(sheetRows(before, made?.findings ?? []));
  return (
    <aside
      aria-label="Target sheet"
      className={`min-h-0 overflow-y-auto border-hairline bg-sheet px-4 py-3 lg:border-l ${className}`}
      data-testid="target-sheet"
    >
      <h2 className="label">Target sheet</h2>
      <p className="text-lg leading-tight font-semibold">{target.name}</p>
      {chain?.obstacles.map((obstacle) => (
        <div key={obstacle.text} role="alert" className="mt-3 border-l-4 border-brick bg-brick-tint px-3 py-2">
          <p>{obstacle.text}</p>
          <div className="mt-1.5 flex flex-wrap gap-1.5">
            {obstacle.ways.map(({ label, station, wish }) => (
              <Button key={label} kind="way" onClick={() => onChange(station as StationId, wish)}>
                {label}
              </Button>
            ))}
          </div>
        </div>
      ))}
      <Rows rows={open} />
      {folded.length > 0 && (
        <Fold title={`${folded.length} meet`} className="mt-2">
          <Rows rows={folded} />
        </Fold>
      )}
      {refused && !made && <p className="mt-2 text-sm text-brick">Not answered: there is no result.</p>}
      <p className="mt-3 text-xs text-graphite">Answered from the finished bytes, read again.</p>
    </aside>
  );
}

const Rows = ({ rows }: { rows: readonly SheetRow[] }) => (
  <dl className="mt-2 divide-y divide-hairline">
    {rows.map((row) => (
      <Row key={`${row.about.requirement} ${row.about.wanted}`} row={row} />
    ))}
  </dl>
);

/** What it is about and the verdict; below, what is wanted, what was found, and how to mend what does not meet. */
function Row({ row: { about, was, is } }: { row: SheetRow }) {
  const isMet = is?.verdict === 'meets';
  return (
    <div className="py-1.5 text-sm">
      <dt className="flex items-center justify-between gap-2 text-graphite">
        {about.title}
        {is ? <VerdictMark verdict={is.verdict} /> : <span>…</span>}
      </dt>
      <dd>
        <span className="figure font-medium break-words">{unbroken(about.wanted)}</span>
        {is && !isMet && <span className="figure block break-words">{unbroken(`is ${is.found}`)}</span>}
        {was && (
          <span className={`figure text-xs break-words text-graphite ${is && !isMet ? 'block' : 'ml-2'}`}>
            {was.verdict === 'meets' ? 'the source too' : unbroken(`was ${was.found}`)}
          </span>
        )}
        {is && !isMet && is.mend && (
          <span className="block">
            <span className="text-graphite">mend:</span> {unbroken(is.mend)}
          </span>
        )}
      </dd>
    </div>
  );
}
