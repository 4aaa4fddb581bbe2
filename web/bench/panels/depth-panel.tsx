import {
  type ClipSettings,
  DEPTH_RANGES,
  type Dither,
  formatDb,
  idealSignalToNoise,
  type RenderReport,
} from '@tambur/core';
import { Choice } from '../../ui/choice.tsx';
import { ChoiceTable } from '../../ui/choice-table.tsx';
import { Fold } from '../../ui/fold.tsx';
import { NumberField } from '../../ui/number-field.tsx';
import { Toggle } from '../../ui/toggle.tsx';
import { Magnifier } from '../magnifier.tsx';
import type { PanelProps } from './panel.ts';

type Wish = Exclude<ClipSettings['depth'], 'automatic'>;

const BITS = [16, 12, 10, 8, 6, 4, 2, 1];

/** How much noise is mixed in, by the width of it in steps; where it goes is a second question, of the widest alone. */
type Noise = 'none' | 'rectangular' | 'triangular';
const NOISES: readonly { readonly value: Noise; readonly label: string; readonly detail: string }[] = [
  { value: 'none', label: 'none', detail: 'distortion' },
  { value: 'rectangular', label: 'one step wide', detail: 'hiss with the sound' },
  { value: 'triangular', label: 'two steps wide', detail: 'even hiss' },
];

/** How many levels, how values between them are rounded, and what that costs. */
export function DepthPanel({ chain, settings, source, preview, onChange }: PanelProps) {
  const { bits, dither, rounding, blanks, seed } = chain.stations.depth.plan;
  const wish: Wish = settings.depth === 'automatic' ? {} : settings.depth;
  const set = (change: Wish) => onChange({ depth: { ...wish, ...change } });
  const report = preview?.report;
  return (
    <div className="grid gap-2">
      {bits !== null && (
        <div className="grid gap-x-8 gap-y-3 @xl:grid-cols-[auto_minmax(0,1fr)]">
          <div className="grid content-start gap-2">
            <ChoiceTable<number>
              name="Levels used"
              columns={['best signal to noise']}
              value={bits}
              onChange={(value) => set({ bits: value })}
              rows={[...new Set([...BITS, bits])]
                .toSorted((a, b) => b - a)
                .map((value) => ({
                  value,
                  label: `${value} bit`,
                  figures: [`${Math.round(idealSignalToNoise(value))} dB`],
                }))}
            />
            <div className="flex gap-x-4">
              <NumberField
                label="Another depth"
                unit="bit"
                value={bits}
                range={DEPTH_RANGES.bits}
                onChange={(value) => set({ bits: Math.round(value) })}
              />
              {dither !== 'none' && (
                <NumberField
                  label="Seed"
                  unit=""
                  value={seed}
                  range={DEPTH_RANGES.seed}
                  onChange={(value) => set({ seed: Math.round(value) })}
                />
              )}
            </div>
          </div>
          <div className="grid content-start gap-2">
            <ChoiceTable<Noise>
              name="Noise that hides distortion"
              columns={['leaves']}
              value={dither === 'shaped' ? 'triangular' : dither}
              onChange={(value) => set({ dither: value })}
              rows={NOISES.map(({ value, label, detail }) => ({ value, label, figures: [detail] }))}
            />
            {(dither === 'triangular' || dither === 'shaped') && (
              <Choice<Dither>
                name="Where it goes"
                value={dither}
                onChange={(value) => set({ dither: value })}
                options={[
                  { value: 'triangular', label: 'everywhere alike' },
                  { value: 'shaped', label: 'to where one hears less' },
                ]}
              />
            )}
            <div className="flex flex-wrap items-end gap-x-4 gap-y-2">
              <Choice<'nearest' | 'down'>
                name="Between two levels"
                value={rounding}
                onChange={(value) => set({ rounding: value })}
                options={[
                  { value: 'nearest', label: 'to the nearest' },
                  { value: 'down', label: 'cut off' },
                ]}
              />
              {dither !== 'none' && (
                <Toggle label="Silence stays silent" value={blanks} onChange={(value) => set({ blanks: value })} />
              )}
            </div>
            {report && <MeasuredDepth report={report} bits={bits} />}
          </div>
        </div>
      )}
      {preview && (
        <Fold title="Look at the samples" isOpen={bits === null}>
          <Magnifier preview={preview} source={source} />
        </Fold>
      )}
    </div>
  );
}

/** What came of it: how far the sound stands above the noise, and how many of the levels are used. */
const MeasuredDepth = ({
  report: { signalToNoiseDb, rangeUsed },
  bits,
}: {
  report: Readonly<RenderReport>;
  bits: number;
}) => (
  <p className="text-sm text-graphite">
    signal to noise{' '}
    <span className="figure text-ink">{signalToNoiseDb === null ? 'exact' : formatDb(signalToNoiseDb, 'dB')}</span>
    {rangeUsed !== null && (
      <>
        , levels used{' '}
        <span className="figure text-ink">
          {Math.max(1, Math.round(rangeUsed * 2 ** bits))} of {2 ** bits}
        </span>
      </>
    )}
  </p>
);
