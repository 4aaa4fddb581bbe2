import { useState } from 'react';
import { Button } from '../../ui/button.tsx';
import { Select } from '../../ui/select.tsx';
import { type FaceProps, optionOf } from './face.ts';
import { Lamp, Panel, Stop } from './parts.tsx';

/** An extension that plays an entry to a caller, again and again, until the call is taken. */
export function OnHold({ entries, options, performer, playing, around }: FaceProps) {
  const [path, setPath] = useState<string | null>(null);
  const pause = optionOf(options, 'pause');
  const chosen = entries.find((entry) => entry.path === path) ?? entries[0];
  return (
    <Panel title="On hold" performer={performer} entries={entries}>
      <div className="max-w-96">
        <Select
          label="Message"
          value={chosen?.path ?? null}
          onChange={setPath}
          options={entries.map((entry) => ({ value: entry.path, label: entry.name }))}
        />
      </div>
      <div className="mt-3 flex flex-wrap items-center gap-3">
        <Button
          kind="main"
          disabled={!chosen}
          onClick={() =>
            chosen &&
            void performer.run({ steps: [{ path: chosen.path, pause, circumstances: around }], isForever: true })
          }
        >
          Put the caller on hold
        </Button>
        <Stop performer={performer} playing={playing} />
        <Lamp isLit={playing !== null} words={playing ? 'On hold' : 'No call'} />
      </div>
    </Panel>
  );
}
