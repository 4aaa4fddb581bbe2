import { traitWords } from '@tambur/core';
import { useState } from 'react';
import { Button } from '../../ui/button.tsx';
import { Toggle } from '../../ui/toggle.tsx';
import { type FaceProps, optionOf } from './face.ts';
import { EntryKey, Panel, PlaceChoice, SoundKey, Stop } from './parts.tsx';

const SOFT = 0.35;

/** Pads that are struck softly or hard; each plays the entry of the stick that was put on it. */
export function Pads({ device, entries, options, performer, playing, around, places, onPlace }: FaceProps) {
  const count = optionOf(options, 'pads');
  const [isMuted, setMuted] = useState(false);
  const strike = (path: string, velocity: number) => {
    if (!isMuted) void performer.strike(path, { ...around, velocity }, device.strikes?.voices ?? 1);
  };
  return (
    <Panel title="Pads" performer={performer} entries={entries}>
      <ul className="grid grid-cols-2 gap-3 md:grid-cols-4">
        {Array.from({ length: count }, (_, i) => i + 1).map((pad) => {
          const path = places.get(pad);
          return (
            <li key={pad} className="grid min-w-0 gap-1">
              <div className="grid grid-cols-[minmax(0,1fr)_auto]">
                <SoundKey
                  label={`Strike pad ${pad} hard`}
                  isPlaying={path !== undefined && playing === path}
                  isEmpty={path === undefined}
                  onPress={() => path !== undefined && strike(path, 1)}
                >
                  <span className="figure">{pad}</span>
                </SoundKey>
                <Button
                  className="border-l-0"
                  disabled={path === undefined}
                  onClick={() => path !== undefined && strike(path, SOFT)}
                >
                  softly<span className="sr-only"> on pad {pad}</span>
                </Button>
              </div>
              <PlaceChoice label={`Sound of pad ${pad}`} place={pad} {...{ entries, places, onPlace }} />
            </li>
          );
        })}
      </ul>
      <p className="label mt-4">On the stick</p>
      <ul className="-mx-1 grid max-h-56 gap-1 overflow-y-auto p-1 sm:grid-cols-2">
        {entries.map((entry) => (
          <li key={entry.path} className="grid min-w-0">
            <EntryKey verb="Hear" {...{ entry, performer, playing, around }} />
          </li>
        ))}
      </ul>
      <div className="mt-3 flex flex-wrap items-center gap-4">
        <Toggle label="Mute" value={isMuted} onChange={setMuted} />
        <p className="text-sm text-graphite">{traitWords(device, 'strikes')}</p>
        <Stop performer={performer} playing={playing} />
      </div>
    </Panel>
  );
}
