import { type Chain, checkFile, type StationId, type Target } from '@tambur/core';
import type { SourceView } from '@tambur/server';
import { useMemo } from 'react';
import { Button } from '../ui/button.tsx';
import { VerdictMark } from '../ui/verdict.tsx';
import { type SheetRow, sheetRows } from './sheet-rows.ts';
import type { PreviewState } from './use-preview.ts';

interface Props {
  readonly target: Target;
  readonly chain: Chain | null;
  readonly source: SourceView;
  readonly preview: PreviewState;
  readonly onChange: (station: StationId, wish: unknown) => void;
}

/** The sheet, each requirement answered: what is wanted, what the source was, what the result is. */
export function TargetSheet({ target, chain, source, preview, onChange }: Props) {
  const before = useMemo(() => checkFile(target, source.facts, source.name), [target, source]);
  const { made, refused } = preview;
  const rows = sheetRows(before, made?.findings ?? []);
  return (
    <aside
      aria-label="Target sheet"
      className="border-t border-hairline bg-sheet px-4 py-3 xl:border-t-0 xl:border-l"
      data-testid="target-sheet"
    >
      <h3 className="label">Target sheet</h3>
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
      <dl className="mt-2 divide-y divide-hairline">
        {rows.map((row) => (
          <Row key={`${row.about.requirement} ${row.about.wanted}`} row={row} />
        ))}
      </dl>
      {refused && !made && <p className="mt-2 text-sm text-brick">Not answered: there is no result.</p>}
      <p className="mt-3 text-xs text-graphite">Answered from the finished bytes, read again.</p>
    </aside>
  );
}

/** Wanted and found, the verdict, and how to mend what does not meet. */
function Row({ row: { about, was, is } }: { row: SheetRow }) {
  const isMet = is?.verdict === 'meets';
  return (
    <div className="grid grid-cols-[5.5rem_minmax(0,1fr)_auto] gap-x-2 py-1.5">
      <dt className="text-sm text-graphite">{about.title}</dt>
      <dd className="min-w-0">
        <span className="figure block text-sm font-medium break-words">{about.wanted}</span>
        {is && !isMet && <span className="figure block text-sm">is {is.found}</span>}
        {was && (
          <span className="figure block text-xs break-words text-graphite">
            {was.verdict === 'meets' ? 'the source too' : `was ${was.found}`}
          </span>
        )}
      </dd>
      <dd>{is ? <VerdictMark verdict={is.verdict} /> : <span className="text-sm text-graphite">…</span>}</dd>
      {is && !isMet && is.mend && (
        <dd className="col-span-2 col-start-2 text-sm">
          <span className="text-graphite">mend:</span> {is.mend}
        </dd>
      )}
    </div>
  );
}
