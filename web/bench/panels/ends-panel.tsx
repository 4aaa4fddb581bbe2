import {
  BAR_RANGES,
  type ClipSettings,
  ENDS_RANGES,
  FADE_SHAPES,
  type FadeShape,
  formatCount,
  formatLength,
  formatLevel,
  type NumberRange,
  USUAL_ENDS,
} from '@tambur/core';
import type { ReactNode } from 'react';
import { Choice } from '../../ui/choice.tsx';
import { Figures } from '../../ui/figures.tsx';
import { NumberField } from '../../ui/number-field.tsx';
import { Select } from '../../ui/select.tsx';
import { Toggle } from '../../ui/toggle.tsx';
import type { PanelProps } from './panel.ts';
import { type Change, wishWith } from './wish.ts';

type Wish = Exclude<ClipSettings['ends'], 'automatic'>;
type Length = 'automatic' | 'trim' | 'pad' | 'nearest' | 'frames' | 'bars';

const FADES: Readonly<Record<FadeShape, string>> = {
  linear: 'straight',
  smooth: 'smooth',
  'equal-power': 'equal power',
  exponential: 'even in dB',
};

const Group = ({ title, children }: { title: string; children: ReactNode }) => (
  <fieldset className="min-w-0 border-t border-hairline pt-2">
    <legend className="label float-left w-full">{title}</legend>
    <div className="clear-both flex flex-wrap items-end gap-x-5 gap-y-2 pt-1.5">{children}</div>
  </fieldset>
);

interface MillisecondsProps {
  readonly label: string;
  readonly value: number;
  readonly range: NumberRange;
  readonly onChange: (ms: number) => void;
}

const Milliseconds = (props: MillisecondsProps) => <NumberField unit="ms" {...props} />;

/** A row of its own. */
const Whole = ({ children }: { children?: ReactNode }) => <div className="basis-full">{children}</div>;

/** Silence, fades, length and loop, in ms and in frames of the result. */
export function EndsPanel({ chain, settings, preview, onChange }: PanelProps) {
  const { incoming, frames, isOpen } = chain.stations.ends.plan;
  const rate = chain.stations.rate.plan.to;
  const wish: Wish = settings.ends === 'automatic' ? {} : settings.ends;
  const set = (change: Change<Wish>) => onChange({ ends: wishWith(settings.ends, change) });
  const report = preview?.report;
  const delivered = report?.frames ?? frames;
  return (
    <div className="grid gap-4">
      <LengthChoice wish={wish} frames={delivered} seconds={incoming / rate} set={set} />
      <div className="grid gap-x-10 gap-y-4 @2xl:grid-cols-2">
        <Group title="Silence">
          <Whole>
            <Toggle
              label="Trim it"
              value={wish.trim !== undefined}
              onChange={(on) => set({ trim: on ? {} : undefined })}
            />
          </Whole>
          {wish.trim && (
            <>
              <NumberField
                label="Quieter than"
                unit="dBFS"
                value={wish.trim.thresholdDb ?? USUAL_ENDS.thresholdDb}
                range={ENDS_RANGES.thresholdDb}
                onChange={(thresholdDb) => set({ trim: { ...wish.trim, thresholdDb } })}
              />
              <Milliseconds
                label="Keep"
                value={wish.trim.keepMs ?? 0}
                range={ENDS_RANGES.keepMs}
                onChange={(keepMs) => set({ trim: { ...wish.trim, keepMs } })}
              />
            </>
          )}
          <Whole />
          {(['front', 'back'] as const).map((side) => (
            <div key={side} className="flex flex-wrap items-end gap-x-3">
              <Milliseconds
                label={side === 'front' ? 'At the start' : 'At the end'}
                range={ENDS_RANGES.silenceMs}
                value={wish[side]?.ms ?? 0}
                onChange={(ms) => set({ [side]: ms ? { ...wish[side], ms } : undefined })}
              />
              {wish[side] && (
                <Toggle
                  label="at least"
                  value={wish[side]?.atLeast ?? false}
                  onChange={(atLeast) => set({ [side]: { ms: wish[side]?.ms ?? 0, ...(atLeast ? { atLeast } : {}) } })}
                />
              )}
            </div>
          ))}
        </Group>
        <div className="grid content-start gap-4">
          <Group title="Fades">
            {(['fadeIn', 'fadeOut'] as const).map((side) => (
              <div key={side} className="flex flex-wrap items-end gap-x-3">
                <Milliseconds
                  label={side === 'fadeIn' ? 'In' : 'Out'}
                  range={ENDS_RANGES.fadeMs}
                  value={wish[side]?.ms ?? 0}
                  onChange={(ms) => set({ [side]: ms ? { ...wish[side], ms } : undefined })}
                />
                {wish[side] && (
                  <Select
                    label="Shape"
                    value={wish[side]?.shape ?? USUAL_ENDS.shape}
                    options={FADE_SHAPES.map((shape) => ({ value: shape, label: FADES[shape] }))}
                    onChange={(shape) => set({ [side]: { ms: wish[side]?.ms ?? 0, shape: shape as FadeShape } })}
                  />
                )}
              </div>
            ))}
          </Group>
          <Group title="Loop">
            <Whole>
              <Toggle
                label="Find the best seam"
                value={wish.loop !== undefined}
                onChange={(on) => set({ loop: on ? { searchMs: 100 } : undefined })}
              />
            </Whole>
            {wish.loop && (
              <>
                <Milliseconds
                  label="Within"
                  value={wish.loop.searchMs}
                  range={ENDS_RANGES.seamMs}
                  onChange={(searchMs) => set({ loop: { ...wish.loop, searchMs } })}
                />
                <Milliseconds
                  label="Cross-fade"
                  value={wish.loop.crossFadeMs ?? 0}
                  range={ENDS_RANGES.seamMs}
                  onChange={(crossFadeMs) =>
                    set({ loop: { searchMs: wish.loop?.searchMs ?? 100, ...(crossFadeMs ? { crossFadeMs } : {}) } })
                  }
                />
              </>
            )}
          </Group>
        </div>
      </div>
      <Figures
        wide
        list={[
          { label: 'from the cut', value: formatLength(incoming, rate) },
          {
            label: 'delivered',
            value: report || !isOpen ? formatLength(delivered, rate) : 'the sound itself decides',
          },
          report?.trimmed
            ? {
                label: 'silence trimmed',
                value: `${formatCount(report.trimmed.front)} + ${formatCount(report.trimmed.back)} frames`,
              }
            : null,
          report?.loop
            ? {
                label: 'step at the seam',
                value: `${formatLevel(report.loop.step)}, usual ${formatLevel(report.loop.usualStep)}`,
                isTrouble: report.loop.step > 2 * report.loop.usualStep,
              }
            : null,
          report?.loop
            ? {
                label: 'alike at the seam',
                value: `${Math.round(100 * report.loop.likeness)} %; leaves ${formatCount(report.loop.front)} + ${formatCount(report.loop.back)} frames`,
              }
            : null,
        ]}
      />
    </div>
  );
}

interface LengthProps {
  readonly wish: Wish;
  readonly frames: number;
  readonly seconds: number;
  readonly set: (change: Change<Wish>) => void;
}

/** How the length is settled: by blocks, to a number of frames, or to bars. */
function LengthChoice({ wish, frames, seconds, set }: LengthProps) {
  const mode: Length = wish.bars ? 'bars' : wish.frames ? 'frames' : (wish.block ?? 'automatic');
  const choose = (value: Length) => {
    const none = { block: undefined, frames: undefined, bars: undefined };
    // A first proposal: as many bars of four at 120 beats a minute as come nearest.
    const count = Math.max(1, Math.round(seconds / 2));
    set({
      ...none,
      ...(value === 'automatic'
        ? {}
        : value === 'frames'
          ? { frames }
          : value === 'bars'
            ? { bars: { count, beats: 4, tempo: 120 } }
            : { block: value }),
    });
  };
  const { bars } = wish;
  return (
    <div className="flex flex-wrap items-end gap-x-8 gap-y-3">
      <Choice<Length>
        name="Length"
        value={mode}
        onChange={choose}
        options={[
          { value: 'automatic', label: 'Automatic' },
          { value: 'trim', label: 'Trim to a block' },
          { value: 'pad', label: 'Pad to a block' },
          { value: 'nearest', label: 'Nearest block' },
          { value: 'frames', label: 'Frames' },
          { value: 'bars', label: 'Bars' },
        ]}
      />
      {wish.frames && (
        <NumberField
          label="Exactly"
          unit="frames"
          value={wish.frames}
          range={ENDS_RANGES.frames}
          onChange={(value) => set({ frames: Math.round(value) })}
        />
      )}
      {bars && (
        <div className="flex flex-wrap items-end gap-x-5 gap-y-2">
          <NumberField
            label="Bars"
            unit=""
            value={bars.count}
            range={BAR_RANGES.count}
            onChange={(count) => set({ bars: { ...bars, count: Math.round(count) } })}
          />
          <NumberField
            label="Beats in a bar"
            unit=""
            value={bars.beats}
            range={BAR_RANGES.beats}
            onChange={(beats) => set({ bars: { ...bars, beats: Math.round(beats) } })}
          />
          <NumberField
            label="Tempo"
            unit="beats/min"
            decimals={2}
            value={bars.tempo}
            range={BAR_RANGES.tempo}
            onChange={(tempo) => set({ bars: { ...bars, tempo } })}
          />
          <Choice<'cut' | 'stretch'>
            name="Reached by"
            value={bars.by ?? 'cut'}
            onChange={(by) => set({ bars: { ...bars, by } })}
            options={[
              { value: 'cut', label: 'Cut or pad' },
              { value: 'stretch', label: 'Stretch', detail: 'changes the pitch' },
            ]}
          />
        </div>
      )}
    </div>
  );
}
