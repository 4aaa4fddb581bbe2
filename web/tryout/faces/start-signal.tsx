import { traitWords } from '@tambur/core';
import { useState } from 'react';
import { Button } from '../../ui/button.tsx';
import { type FaceProps, optionOf } from './face.ts';
import { Lamp, Panel, SoundKey, Stop } from './parts.tsx';

/** A show: one entry is armed and starts at the signal; what the device loses of its front is not heard. */
export function StartSignal({ device, entries, options, performer, playing, around }: FaceProps) {
  const [armed, setArmed] = useState<string | null>(null);
  const delay = optionOf(options, 'delay');
  const entry = entries.find(({ path }) => path === armed);
  return (
    <Panel title="Start signal" performer={performer} entries={entries}>
      <ul className="grid gap-1">
        {entries.map(({ path, name }) => (
          <li key={path} className="grid">
            <SoundKey label={`Arm ${name}`} isPlaying={path === armed} onPress={() => setArmed(path)}>
              <span className="min-w-0 truncate">{name}</span>
            </SoundKey>
          </li>
        ))}
      </ul>
      <div className="mt-3 flex flex-wrap items-center gap-3">
        <Button
          kind="main"
          disabled={!entry}
          onClick={() =>
            entry && void performer.run({ steps: [{ path: entry.path, lead: delay, circumstances: around }] })
          }
        >
          Start
        </Button>
        <Stop performer={performer} playing={playing} />
        <Lamp
          isLit={playing !== null}
          words={playing ? 'Running' : entry ? `Armed; starts after ${delay} s` : 'Nothing is armed'}
        />
      </div>
      {device.locks && <p className="mt-2 text-sm text-graphite">It {traitWords(device, 'locks')}.</p>}
    </Panel>
  );
}
