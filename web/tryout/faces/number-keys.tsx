import { useState } from 'react';
import { Button } from '../../ui/button.tsx';
import { NumberField } from '../../ui/number-field.tsx';
import { type FaceProps, optionOf } from './face.ts';
import { Lamp, Panel, Stop } from './parts.tsx';

/** The number with which a name begins; without one, its place. */
const numberOf = (name: string, place: number): number => {
  const digits = /^\d+/.exec(name)?.[0];
  return digits === undefined ? place : Number(digits);
};

/** Sounds by number, the next one, the one before; a lamp that is lit while one plays. */
export function NumberKeys({ entries, options, performer, playing, around }: FaceProps) {
  const first = optionOf(options, 'first');
  const numbered = new Map(entries.map(({ path, name }, i) => [numberOf(name, first + i), path]));
  const [number, setNumber] = useState(first);
  const play = (at: number) => {
    setNumber(at);
    const path = numbered.get(at);
    if (path === undefined) performer.stop();
    else void performer.run({ steps: [{ path, circumstances: around }] });
  };
  const known = [...numbered.keys()].sort((a, b) => a - b);
  const missing = !numbered.has(number);
  return (
    <Panel title="Number keys" performer={performer} entries={entries}>
      <div className="flex flex-wrap items-end gap-2">
        <NumberField label="Number" unit="" value={number} range={{ least: 0, most: 99_999 }} onChange={setNumber} />
        <Button kind="main" onClick={() => play(number)}>
          Play
        </Button>
        <Button onClick={() => play(known.findLast((at) => at < number) ?? number)}>Previous</Button>
        <Button onClick={() => play(known.find((at) => at > number) ?? number)}>Next</Button>
        <Stop performer={performer} playing={playing} />
      </div>
      <div className="mt-3 flex flex-wrap gap-1.5">
        {known.map((at) => (
          <Button
            key={at}
            className="figure"
            aria-pressed={playing !== null && playing === numbered.get(at)}
            onClick={() => play(at)}
          >
            {at}
          </Button>
        ))}
      </div>
      <div className="mt-3">
        <Lamp
          isLit={playing !== null}
          words={missing ? `Nothing has the number ${number}: the device stays silent.` : playing ? 'Busy' : 'Ready'}
        />
      </div>
    </Panel>
  );
}
