import { useState } from 'react';
import { Button } from '../../ui/button.tsx';
import { type FaceProps, optionOf } from './face.ts';
import { EntryKey, Panel, Stop } from './parts.tsx';

/** Entries one below the other; one of them is the current tone, and rings. */
export function ToneList({ entries, options, performer, playing, around }: FaceProps) {
  const [current, setCurrent] = useState<string | null>(null);
  const rings = optionOf(options, 'rings');
  const chosen = entries.find(({ path }) => path === current) ?? entries[0];
  return (
    <Panel title="List" performer={performer} entries={entries}>
      <ul className="-m-1 grid max-h-80 gap-1 overflow-y-auto p-1">
        {entries.map((entry) => (
          <li key={entry.path} className="flex items-center gap-2">
            <div className="grid min-w-0 flex-1">
              <EntryKey verb="Hear" {...{ entry, performer, playing, around }} />
            </div>
            <Button
              className="w-24 self-stretch"
              aria-pressed={chosen === entry}
              onClick={() => setCurrent(entry.path)}
            >
              {chosen === entry ? 'Current' : 'Use'}
              <span className="sr-only"> {entry.name}</span>
            </Button>
          </li>
        ))}
      </ul>
      <div className="mt-3 flex flex-wrap items-center gap-2">
        {chosen && (
          <Button
            kind="main"
            onClick={() =>
              void performer.run({
                steps: [{ path: chosen.path, circumstances: around }],
                ...(rings > 0 ? { isForever: true, most: rings } : {}),
              })
            }
          >
            {rings > 0 ? `Ring for ${rings} s` : 'Play'}
          </Button>
        )}
        <Stop performer={performer} playing={playing} />
      </div>
    </Panel>
  );
}
