import { useState } from 'react';
import { Button } from '../../ui/button.tsx';
import { type FaceProps, numberOption } from './face.ts';
import { Panel, SoundKey, Stop } from './parts.tsx';

/** Entries one below the other; one of them is the current tone, and rings. */
export function ToneList({ entries, options, performer, playing, around }: FaceProps) {
  const [current, setCurrent] = useState<string | null>(null);
  const rings = numberOption(options, 'rings', 20);
  const chosen = entries.find(({ path }) => path === current) ?? entries[0];
  return (
    <Panel title="List">
      <ul className="-m-1 grid max-h-80 gap-1 overflow-y-auto p-1">
        {entries.map(({ path, name }) => (
          <li key={path} className="flex items-center gap-2">
            <div className="grid min-w-0 flex-1">
              <SoundKey
                label={`Hear ${name}`}
                isPlaying={playing === path}
                onPress={() => performer.toggle(path, around)}
              >
                <span className="min-w-0 truncate">{name}</span>
              </SoundKey>
            </div>
            <Button className="w-24 self-stretch" aria-pressed={chosen?.path === path} onClick={() => setCurrent(path)}>
              {chosen?.path === path ? 'Current' : 'Use'}
              <span className="sr-only"> {name}</span>
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
