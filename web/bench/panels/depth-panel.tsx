import { type ClipSettings, DEPTH_RANGES, type Dither, formatDb, idealSignalToNoise } from '@tambur/core';
import { Choice } from '../../ui/choice.tsx';
import { Figures } from '../../ui/figures.tsx';
import { NumberField } from '../../ui/number-field.tsx';
import { Toggle } from '../../ui/toggle.tsx';
import { Magnifier } from '../magnifier.tsx';
import type { PanelProps } from './panel.ts';

type Wish = Exclude<ClipSettings['depth'], 'automatic'>;

const BITS = [16, 12, 10, 8, 6, 4, 2, 1];

const DITHERS: readonly { readonly value: Dither; readonly label: string; readonly detail?: string }[] = [
  { value: 'none', label: 'None' },
  { value: 'rectangular', label: 'Rectangular' },
  { value: 'triangular', label: 'Triangular' },
  { value: 'shaped', label: 'Noise-shaped' },
];

/** How many levels, how values between them are rounded, and what that costs. */
export function DepthPanel({ chain, settings, source, preview, onChange }: PanelProps) {
  const { bits, dither, rounding, blanks, seed } = chain.stations.depth.plan;
  const wish: Wish = settings.depth === 'automatic' ? {} : settings.depth;
  const set = (change: Wish) => onChange({ depth: { ...wish, ...change } });
  const report = preview?.report;
  return (
    <div className="grid gap-4">
      {bits !== null && (
        <div className="flex flex-wrap gap-x-10 gap-y-4">
          <div className="grid content-start gap-3">
            <Choice<number>
              name="Levels used; signal to noise of a full-scale sine"
              value={bits}
              onChange={(value) => set({ bits: value })}
              options={[...new Set([...BITS, bits])]
                .toSorted((a, b) => b - a)
                .map((value) => ({
                  value,
                  label: `${value} bit`,
                  detail: `${Math.round(idealSignalToNoise(value))} dB`,
                }))}
            />
            <Choice<Dither>
              name="Dither"
              value={dither}
              onChange={(value) => set({ dither: value })}
              options={DITHERS}
            />
            <div className="flex flex-wrap items-end gap-x-6 gap-y-2">
              <Choice<'nearest' | 'down'>
                name="Rounding"
                value={rounding}
                onChange={(value) => set({ rounding: value })}
                options={[
                  { value: 'nearest', label: 'To the nearest' },
                  { value: 'down', label: 'Cut off' },
                ]}
              />
              {dither !== 'none' && (
                <Toggle
                  label="Keep digital silence silent"
                  value={blanks}
                  onChange={(value) => set({ blanks: value })}
                />
              )}
              <span className="basis-full" />
              <NumberField
                label="Other depth"
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
          {report && (
            <Figures
              list={[
                {
                  label: 'signal to noise',
                  value: report.signalToNoiseDb === null ? 'exact' : formatDb(report.signalToNoiseDb, 'dB'),
                },
                { label: 'of a full-scale sine', value: formatDb(idealSignalToNoise(bits), 'dB') },
                report.rangeUsed === null
                  ? null
                  : {
                      label: 'levels used',
                      value: `${Math.max(1, Math.round(report.rangeUsed * 2 ** bits))} of ${2 ** bits}, ${(100 * report.rangeUsed).toFixed(report.rangeUsed < 0.1 ? 1 : 0)} %`,
                    },
              ]}
            />
          )}
        </div>
      )}
      {preview && <Magnifier preview={preview} source={source} />}
    </div>
  );
}
