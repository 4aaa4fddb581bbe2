import { formatRate } from '@tambur/core';
import { useState } from 'react';
import { useStore } from 'zustand';
import { Button } from '../../ui/button.tsx';
import { NumberField } from '../../ui/number-field.tsx';
import { Toggle } from '../../ui/toggle.tsx';
import { type FaceProps, optionOf } from './face.ts';
import { EntryKey, Panel, Stop } from './parts.tsx';

/** A program: entries one after the other with pauses between, once or for ever. */
export function Sequence({ entries, options, performer, playing, around }: FaceProps) {
  const [pause, setPause] = useState(optionOf(options, 'pause'));
  const [isForever, setForever] = useState(false);
  const last = useStore(performer.store, (state) => state.last);
  const steps = entries.map(({ path }) => ({ path, pause, circumstances: around }));
  return (
    <Panel title="Sequence" performer={performer} entries={entries}>
      <ol className="grid gap-1 sm:grid-cols-2">
        {entries.map((entry, i) => (
          <li key={entry.path} className="grid min-w-0">
            <EntryKey verb="Play" number={i + 1} {...{ entry, performer, playing, around }} />
          </li>
        ))}
      </ol>
      <div className="mt-3 flex flex-wrap items-end gap-3">
        <NumberField
          label="Pause between"
          unit="s"
          decimals={1}
          value={pause}
          range={{ least: 0, most: 60 }}
          onChange={setPause}
        />
        <Toggle label="For ever" value={isForever} onChange={setForever} />
        <Button kind="main" disabled={entries.length === 0} onClick={() => void performer.run({ steps, isForever })}>
          Run
        </Button>
        <Stop performer={performer} playing={playing} />
      </div>
      {last && <p className="figure mt-3 text-sm text-graphite">Timer at {formatRate(Math.round(last.playsAt))}</p>}
    </Panel>
  );
}
