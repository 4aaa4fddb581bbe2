import { formatChannels, formatRate, formatSeconds } from '@tambur/core';
import { RotateCcw, X } from 'lucide-react';
import { useStore } from 'zustand';
import { Button } from '../ui/button.tsx';
import { Progress } from '../ui/states.tsx';
import type { ImportRow, Imports } from './import-store.ts';

function Row({ row, imports }: { row: ImportRow; imports: Imports }) {
  const { state, name, id, facts } = row;
  return (
    <li className="py-1.5 text-sm">
      <div className="flex items-start gap-2">
        <span className="min-w-0 flex-1 truncate" title={name}>
          {name}
        </span>
        {state.kind === 'failed' && (
          <Button look="quiet" aria-label={`Try ${name} again`} onClick={() => imports.retry(id)}>
            <RotateCcw className="size-3.5" aria-hidden />
          </Button>
        )}
        <Button
          look="quiet"
          aria-label={state.kind === 'failed' ? `Dismiss ${name}` : `Cancel ${name}`}
          onClick={() => imports.drop(id)}
        >
          <X className="size-3.5" aria-hidden />
        </Button>
      </div>
      {state.kind === 'failed' ? (
        <p role="alert" className="mt-0.5 border-l-2 border-brick pl-2 text-brick">
          {/* The name stands above already. */}
          {state.message.replace(`${name}: `, '')}
        </p>
      ) : (
        <Progress value={state.kind === 'sending' ? state.sent : state.kind === 'decoding' ? 1 : 0} label={name}>
          <p className="mt-0.5 text-graphite">
            {state.kind === 'waiting' ? 'waiting' : state.kind === 'sending' ? 'copying' : 'decoding …'}
            {facts && (
              <span className="figure ml-2">
                {formatRate(facts.sampleRate)} {formatChannels(facts.channels)}{' '}
                {formatSeconds(facts.frames / facts.sampleRate)}
              </span>
            )}
          </p>
        </Progress>
      )}
    </li>
  );
}

/** Files on their way in, and those that could not come in with the reason. */
export function ImportRows({ imports }: { imports: Imports }) {
  const rows = useStore(imports.store, (state) => state.rows);
  if (rows.length === 0) return null;
  return (
    <section aria-label="Files coming in" className="border-b border-hairline px-3 pb-2">
      <ul className="divide-y divide-hairline">
        {rows.map((row) => (
          <Row key={row.id} row={row} imports={imports} />
        ))}
      </ul>
      {rows.length > 1 && (
        <Button look="quiet" className="text-sm" onClick={() => imports.dropAll()}>
          Clear all
        </Button>
      )}
    </section>
  );
}
