import { frameCount } from '@tambur/core';
import { useStore } from 'zustand';
import { type FaceProps, optionOf } from './face.ts';
import { Lamp, Panel, PlaceChoice, SoundKey, Stop } from './parts.tsx';

/** Of a bar, where the device does not say. */
const USUAL_BEATS = 4;

/** Slots with loops, each repeated without a gap, from one to the other on the bar; how far one drifts from it in each round. */
export function Loops({ device, entries, options, performer, playing, around, places, onPlace }: FaceProps) {
  const count = optionOf(options, 'slots');
  const { tempo = optionOf(options, 'tempo'), beats = USUAL_BEATS } = device['on-the-bar'] ?? {};
  const last = useStore(performer.store, (state) => state.last);
  const waiting = useStore(performer.store, (state) => state.waiting);
  const bar = (beats * 60) / tempo;
  const round = last?.right.at(-1);
  const seconds = round ? frameCount(round) / round.sampleRate : null;
  const bars = seconds === null ? 0 : Math.max(1, Math.round(seconds / bar));
  const drift = seconds === null ? 0 : 1000 * (seconds - bars * bar);
  return (
    <Panel title={`Loops at ${tempo} beats a minute`} performer={performer} entries={entries}>
      <ul className="grid gap-2 sm:grid-cols-2 lg:grid-cols-4">
        {Array.from({ length: count }, (_, i) => i + 1).map((slot) => {
          const path = places.get(slot);
          return (
            <li key={slot} className="grid min-w-0 gap-1">
              <SoundKey
                label={`Loop of slot ${slot}`}
                isPlaying={path !== undefined && playing === path}
                isEmpty={path === undefined}
                onPress={() =>
                  path === playing
                    ? performer.stop()
                    : path !== undefined &&
                      void performer.run({ steps: [{ path, circumstances: around }], isForever: true, bar })
                }
              >
                <span className="figure">{slot}</span>
                {path !== undefined && path === waiting && <span className="text-sm">next</span>}
              </SoundKey>
              <PlaceChoice label={`Sound of slot ${slot}`} place={slot} {...{ entries, places, onPlace }} />
            </li>
          );
        })}
      </ul>
      <div className="mt-3 flex flex-wrap items-center gap-4">
        <Stop performer={performer} playing={playing} />
        <Lamp isLit={playing !== null} words={waiting ? 'Changes on the next bar' : playing ? 'Running' : 'Ready'} />
        {seconds !== null && (
          <p className="figure text-sm">
            {bars} {bars === 1 ? 'bar' : 'bars'},{' '}
            {Math.abs(drift) < 0.05
              ? 'exact: no drift'
              : `${Math.abs(drift).toFixed(2)} ms too ${drift > 0 ? 'long' : 'short'} in each round`}
          </p>
        )}
      </div>
    </Panel>
  );
}
