import { askedBy } from '@tambur/core';
import { useStore } from 'zustand';
import { SNAPS, type Snap } from '../../sound/snap.ts';
import { Choice } from '../../ui/choice.tsx';
import { NumberField } from '../../ui/number-field.tsx';
import { looks } from '../looks.ts';
import type { PanelProps } from './panel.ts';

const SNAP_WORDS: Readonly<Record<Snap, string>> = {
  off: 'any frame',
  zero: 'zero crossings',
  block: 'whole blocks',
  bar: 'whole bars',
  silence: 'edges of silence',
};

/** Start, end and length, in seconds and in frames of the source. */
export function CutPanel({ chain, source, target, onChange }: PanelProps) {
  const snap = useStore(looks, (state) => state.snap);
  const { rule } = chain.stations.ends.plan;
  const hasBlocks = rule.kind === 'blocks' && rule.multipleOf > 1;
  const hasBars = askedBy(target).some(({ kind }) => kind === 'bars');
  const { frames, sampleRate } = source.facts;
  const { start, end } = chain.stations.cut.plan;
  const set = (from: number, to: number) => onChange({ cut: { start: from, end: to } });
  const setStart = (frame: number) => set(Math.max(0, Math.min(end - 1, Math.round(frame))), end);
  const setEnd = (frame: number) => set(start, Math.max(start + 1, Math.min(frames, Math.round(frame))));
  const fields = [
    { name: 'Start', frame: start, least: 0, most: end - 1, take: setStart },
    { name: 'End', frame: end, least: start + 1, most: frames, take: setEnd },
    { name: 'Length', frame: end - start, least: 1, most: frames - start, take: (n: number) => setEnd(start + n) },
  ];
  return (
    <div className="grid gap-x-8 gap-y-3 @xl:grid-cols-3">
      {fields.map(({ name, frame, least, most, take }) => (
        <div key={name} className="grid grid-cols-2 gap-3 @xl:grid-cols-1 @xl:gap-2">
          <NumberField
            label={`${name}, seconds`}
            unit="s"
            decimals={3}
            value={frame / sampleRate}
            range={{ least: least / sampleRate, most: most / sampleRate }}
            onChange={(seconds) => take(seconds * sampleRate)}
          />
          <NumberField label={`${name}, frames`} unit="frames" value={frame} range={{ least, most }} onChange={take} />
        </div>
      ))}
      <div className="@xl:col-span-3">
        <Choice<Snap>
          name="Dragged ends go to"
          value={snap}
          onChange={(next) => looks.setState({ snap: next })}
          options={SNAPS.filter((each) => !(each === 'block' && !hasBlocks) && !(each === 'bar' && !hasBars)).map(
            (each) => ({ value: each, label: SNAP_WORDS[each] }),
          )}
        />
      </div>
    </div>
  );
}
