import { formatBytes, formatRate } from '@tambur/core';
import { useState } from 'react';
import { useStore } from 'zustand';
import { Slider } from '../../ui/slider.tsx';
import { type FaceProps, optionOf } from './face.ts';
import { EntryKey, Panel, Stop } from './parts.tsx';

const NOTES = ['C', 'C#', 'D', 'D#', 'E', 'F', 'F#', 'G', 'G#', 'A', 'A#', 'B'];
/** MIDI numbers notes from C of the octave below the first: 60 is C4 (MIDI 1.0, by common practice of naming). */
const noteName = (note: number) => `${NOTES[note % 12]}${Math.floor(note / 12) - 1}`;

/**
 * How much of a room is taken.
 * @param beyond what happens to what is too much
 */
function Room({ bytes, most, beyond = '' }: { bytes: number; most: number; beyond?: string }) {
  const isTooMuch = bytes > most;
  return (
    <div className="flex items-center gap-3 px-3">
      <span aria-hidden className="h-1.5 flex-1 bg-hairline">
        <span
          className={`block h-full ${isTooMuch ? 'bg-brick' : 'bg-pine'}`}
          style={{ width: `${Math.min(100, (100 * bytes) / most)}%` }}
        />
      </span>
      <span className={`figure text-sm ${isTooMuch ? 'text-brick' : 'text-graphite'}`}>
        {formatBytes(bytes)} of {formatBytes(most)}
        {isTooMuch && beyond}
      </span>
    </div>
  );
}

/** Sounds of a fixed memory beside the room that each has, played at a note: the rate is multiplied by 2^(n/12). */
export function MemoryMap({ device, entries, options, performer, playing, around }: FaceProps) {
  const root = optionOf(options, 'root');
  const [note, setNote] = useState(root);
  const last = useStore(performer.store, (state) => state.last);
  const now = { ...around, semitones: note - root };
  const room = device['longest-sound']?.bytes;
  const memory = device.holds?.bytes;
  return (
    <Panel title="Memory map" performer={performer} entries={entries}>
      <ul className="grid gap-3">
        {entries.map((entry, i) => (
          <li key={entry.path} className="grid min-w-0 gap-1.5">
            <EntryKey verb="Play" number={i} {...{ entry, performer, playing }} around={now} />
            {room !== undefined && <Room bytes={entry.bytes} most={room} beyond=": the rest is cut off" />}
          </li>
        ))}
      </ul>
      {memory !== undefined && (
        <div className="mt-3">
          <p className="label">All of them</p>
          <Room bytes={entries.reduce((sum, { bytes }) => sum + bytes, 0)} most={memory} />
        </div>
      )}
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
