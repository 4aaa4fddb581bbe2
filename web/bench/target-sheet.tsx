import { type Chain, checkFile, fieldOf, type RankedClip, type StationId, type Target, withUsual } from '@tambur/core';
import type { SourceView } from '@tambur/server';
import { useMemo } from 'react';
import { useStore } from 'zustand';
import { addSheet, useRefreshSheets } from '../api/queries.ts';
import type { JobStore } from '../job/job-store.ts';
import { idFrom } from '../job/sheets.ts';
import { BlankFields } from '../targets/blank-fields.tsx';
import { Button } from '../ui/button.tsx';
import { Fold } from '../ui/fold.tsx';
import { notify, notifyFailure } from '../ui/notify.tsx';
import { unbroken } from '../ui/unbroken.ts';
import { VerdictMark } from '../ui/verdict.tsx';
import { readingOrder, type SheetRow, sheetRows } from './sheet-rows.ts';
import { BarsHelp, TempoHelp } from './tempo-help.tsx';
import { type PreviewState, saysAll } from './use-preview.ts';

interface Props {
  readonly store: JobStore;
  readonly clip: RankedClip;
  /** With its blanks. */
  readonly edition: Target;
  readonly target: Target;
  readonly chain: Chain | null;
  readonly source: SourceView;
  readonly preview: PreviewState;
  readonly className: string;
  readonly onChange: (station: StationId, wish: unknown) => void;
}

/** The sheet, each requirement answered: what is wanted, what the source was, what the result is. */
export function TargetSheet({ store, clip, edition, target, chain, source, preview, className, onChange }: Props) {
  const before = useMemo(() => checkFile(target, source.facts, source.name), [target, source]);
  const { made, refused } = preview;
  const isPiece = made !== null && !saysAll(made);
  const { open, folded } = readingOrder(sheetRows(before, made?.findings ?? []));
  return (
    <aside
      aria-label="Target sheet"
      className={`min-h-0 overflow-y-auto border-hairline bg-sheet px-4 py-3 lg:border-l ${className}`}
      data-testid="target-sheet"
    >
      <h2 className="label">Target sheet</h2>
      <p className="text-lg leading-tight font-semibold">{target.name}</p>
      {edition.blanks.length > 0 && (
        <Blanks store={store} clip={clip} edition={edition} source={source} chain={chain} onWish={onChange} />
      )}
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
      {isPiece && <h3 className="label mt-3">Of a piece, so far</h3>}
      <Rows rows={open} isPiece={isPiece} />
      {folded.length > 0 && (
        <Fold title={`${folded.length} meet`} className="mt-2">
          <Rows rows={folded} isPiece={isPiece} />
        </Fold>
      )}
      {refused && !made && <p className="mt-2 text-sm text-brick">No result yet, so nothing to check.</p>}
      <p className="mt-3 text-xs text-graphite">
        {isPiece
          ? 'Checked on a piece of the finished bytes, read again; the rest follows when the whole is made.'
          : 'Checked on the finished bytes, read again.'}
      </p>
    </aside>
  );
}

/** What the sheet asks of the job and of the clip; and the sheet with these answers, to be kept. */
interface BlanksProps extends Pick<Props, 'store' | 'clip' | 'edition' | 'source' | 'chain'> {
  readonly onWish: Props['onChange'];
}

function Blanks({ store, clip, edition, source, chain, onWish }: BlanksProps) {
  const values = useStore(store, ({ job }) => job.values);
  const title = useStore(store, ({ job }) => job.title);
  const { setValue, setClipValue } = store.getState();
  const refresh = useRefreshSheets();
  const keep = async () => {
    try {
      const name = `${edition.name.slice(0, 36)}, ${title}`.slice(0, 60);
      const kept = {
        ...withUsual(edition, { ...values, ...clip.values }),
        name,
        id: idFrom(name),
        edition: 1,
        variants: [],
      };
      const { name: given } = await addSheet(kept);
      await refresh();
      notify(`${given} is among your target sheets`);
    } catch (error) {
      notifyFailure(error);
    }
  };
  return (
    <div className="mt-2 grid gap-2 border-y border-hairline py-2">
      <BlankFields
        sheet={edition}
        level="job"
        values={values}
        onChange={setValue}
        helpFor={(blank, take) =>
          chain &&
          fieldOf(edition, blank)?.key === 'tempo' && (
            <>
              <TempoHelp source={source} cut={chain.stations.cut.plan} onTake={take} />
              <BarsHelp chain={chain} onWish={onWish} />
            </>
          )
        }
      />
      <BlankFields
        sheet={edition}
        level="clip"
        values={clip.values}
        onChange={(blank, value) => setClipValue(clip.id, blank, value)}
      />
      <div>
        <Button kind="quiet" className="-ml-1.5 text-xs" onClick={() => void keep()}>
          Keep as a sheet of my own
        </Button>
      </div>
    </div>
  );
}

interface RowsProps {
  readonly rows: readonly SheetRow[];
  /** True if answers are those of a piece; what has none waits for the whole. */
  readonly isPiece: boolean;
}

const Rows = ({ rows, isPiece }: RowsProps) => (
  <dl className="mt-2 divide-y divide-hairline">
    {rows.map((row) => (
      <Row key={`${row.about.requirement} ${row.about.wanted}`} row={row} isPiece={isPiece} />
    ))}
  </dl>
);

/** What it is about and the verdict; below, what is wanted, what was found, and how to mend what does not meet. */
function Row({ row: { about, was, is }, isPiece }: { readonly row: SheetRow } & Pick<RowsProps, 'isPiece'>) {
  const isMet = is?.verdict === 'meets';
  return (
    <div className="py-1.5 text-sm">
      <dt className="flex items-center justify-between gap-2 text-graphite">
        {about.title}
        {is ? (
          <VerdictMark verdict={is.verdict} />
        ) : (
          <span className="text-xs">{isPiece ? 'with the whole' : '…'}</span>
        )}
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
