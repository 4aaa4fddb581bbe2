import { formatChannels, formatCount, formatRate, formatSeconds } from '@tambur/core';
import { Binary, RotateCcw, X } from 'lucide-react';
import { useState } from 'react';
import { useStore } from 'zustand';
import { HeaderlessDialog } from '../headerless/headerless-dialog.tsx';
import { Button } from '../ui/button.tsx';
import { Fold } from '../ui/fold.tsx';
import { Progress } from '../ui/states.tsx';
import type { ImportRow, Imports } from './import-store.ts';

const percent = (part: number) => `${Math.round(part * 100)} %`;

function stateWords({ state }: ImportRow): string {
  if (state.kind === 'sending') return `copying ${percent(state.sent)}`;
  if (state.kind === 'decoding') return state.decoded === null ? 'decoding …' : `decoding ${percent(state.decoded)}`;
  return 'waiting';
}

/** Copying is half of the way, decoding the other half. */
function progressOf({ state }: ImportRow): number {
  if (state.kind === 'sending') return state.sent / 2;
  return state.kind === 'decoding' ? 0.5 + (state.decoded ?? 0) / 2 : 0;
}

function Row({ row, imports }: { row: ImportRow; imports: Imports }) {
  const { state, name, id, facts } = row;
  const [reading, setReading] = useState(false);
  return (
    <li className="py-1.5 text-sm">
      <div className="flex items-start gap-2">
        <span className="min-w-0 flex-1 truncate" title={name}>
          {name}
        </span>
        {state.kind === 'failed' && (
          <Button kind="quiet" aria-label={`Try ${name} again`} title="Try again" onClick={() => imports.retry(id)}>
            <RotateCcw className="size-3.5" aria-hidden />
          </Button>
        )}
        <Button
          kind="quiet"
          aria-label={state.kind === 'failed' ? `Dismiss ${name}` : `Cancel ${name}`}
          onClick={() => imports.drop(id)}
        >
          <X className="size-3.5" aria-hidden />
        </Button>
      </div>
      {state.kind === 'failed' ? (
        <div role="alert" className="mt-0.5 border-l-2 border-brick pl-2 text-brick">
          {/* The name stands above already. */}
          <p>{state.message.replace(`${name}: `, '')}</p>
          {state.code === 'not-audio' && (
            <Button className="mt-1 text-ink" onClick={() => setReading(true)}>
              <Binary className="size-3.5" aria-hidden /> Read as headerless …
            </Button>
          )}
        </div>
      ) : (
        <Progress value={progressOf(row)} label={name}>
          <p className="mt-0.5 text-graphite">
            {stateWords(row)}
            {facts && (
              <span className="figure ml-2">
                {formatRate(facts.sampleRate)} {formatChannels(facts.channels)}{' '}
                {formatSeconds(facts.frames / facts.sampleRate)}
              </span>
            )}
          </p>
        </Progress>
      )}
      {reading && (
        <HeaderlessDialog
          file={row.file}
          onClose={() => setReading(false)}
          onRead={(chosen) => {
            setReading(false);
            imports.retry(id, chosen);
          }}
        />
      )}
    </li>
  );
}

/** More rows than these are counted, not shown. */
const SHOWN = 8;

const files = (count: number) => (count === 1 ? '1 file' : `${formatCount(count)} files`);

/** Files on their way in, those that could not come in with the reason, and how it stands with all of them. */
export function ImportRows({ imports }: { imports: Imports }) {
  const { rows, arrived } = useStore(imports.store);
  const failed = rows.filter(({ state }) => state.kind === 'failed');
  const coming = rows.length - failed.length;
  if (rows.length === 0 && arrived < 2) return null;
  // What moves stands first, then what failed, then what waits.
  const order = (row: ImportRow) => (row.state.kind === 'failed' ? 1 : row.state.kind === 'waiting' ? 2 : 0);
  // One that failed says why at once; several are a line with their number, and say it on demand.
  const isFolded = failed.length > 1;
  const shown = (isFolded ? rows.filter((row) => !failed.includes(row)) : rows).toSorted((a, b) => order(a) - order(b));
  const summary = [
    ...(arrived > 0 ? [`${files(arrived)} in`] : []),
    ...(coming > 0 ? [`${formatCount(coming)} coming`] : []),
    ...(failed.length > 0 ? [`${formatCount(failed.length)} could not be used`] : []),
  ].join(', ');
  return (
    <section aria-label="Files coming in" className="relative border-b border-hairline px-3 pb-2">
      <p role="status" className={isFolded ? 'sr-only' : 'py-1 pr-20 text-sm font-medium'}>
        {summary}
      </p>
      {isFolded && (
        <Fold title={<span className="py-1 pr-20 font-medium text-ink">{summary}</span>}>
          <ul className="max-h-64 divide-y divide-hairline overflow-y-auto">
            {failed.map((row) => (
              <Row key={row.id} row={row} imports={imports} />
            ))}
          </ul>
        </Fold>
      )}
      {(rows.length > 1 || arrived > 1) && (
        <Button
          kind="quiet"
          className="absolute top-0 right-3 text-sm"
          onClick={() => (coming > 0 ? imports.dropAll() : imports.clear())}
        >
          {coming > 0 ? 'Cancel all' : 'Clear'}
        </Button>
      )}
      <ul className="divide-y divide-hairline">
        {shown.slice(0, SHOWN).map((row) => (
          <Row key={row.id} row={row} imports={imports} />
        ))}
      </ul>
      {shown.length > SHOWN && (
        <p className="pt-1 text-sm text-graphite">and {formatCount(shown.length - SHOWN)} more</p>
      )}
    </section>
  );
}
