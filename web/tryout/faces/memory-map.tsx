import { formatRate } from '@tambur/core';
import { useState } from 'react';
import { useStore } from 'zustand';
import { Slider } from '../../ui/slider.tsx';
import { type FaceProps, numberOption } from './face.ts';
import { Panel, SoundKey, Stop } from './parts.tsx';

const NOTES = ['C', 'C#', 'D', 'D#', 'E', 'F', 'F#', 'G', 'G#', 'A', 'A#', 'B'];
/** MIDI numbers notes from C of the octave below the first: 60 is C4 (MIDI 1.0, by common practice of naming). */
const noteName = (note: number) => `${NOTES[note % 12]}${Math.floor(note / 12) - 1}`;

/** Sounds of a fixed memory, played at a note: the rate is multiplied by 2^(n/12). */
export function MemoryMap({ entries, options, performer, playing, around }: FaceProps) {
  const root = numberOption(options, 'root', 60);
  const [note, setNote] = useState(root);
  const last = useStore(performer.store, (state) => state.last);
  const now = { ...around, semitones: note - root };
  return (
    <Panel title="Memory map">
      <ul className="grid gap-1">
        {entries.map(({ path, name }, i) => (
          <li key={path} className="grid min-w-0">
            <SoundKey label={`Play ${name}`} isPlaying={playing === path} onPress={() => performer.toggle(path, now)}>
              <span className="figure w-8 text-graphite">{i}</span>
              <span className="min-w-0 truncate">{name}</span>
            </SoundKey>
          </li>
        ))}
      </ul>
      <div className="mt-3 flex flex-wrap items-end gap-4">
        <div className="min-w-56 flex-1">
          <Slider
            label="Note"
            value={note}
            range={{ least: root - 24, most: root + 24 }}
            step={1}
            shown={`${noteName(note)}${note === root ? ', the root' : ''}`}
            onChange={setNote}
          />
        </div>
        <Stop performer={performer} playing={playing} />
      </div>
      {last && <p className="figure mt-2 text-sm text-graphite">Played at {formatRate(Math.round(last.playsAt))}</p>}
    </Panel>
  );
}
