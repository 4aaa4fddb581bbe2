import { type ClipSettings, formatCount, formatDb, formatLevel, GOAL_RANGE, LEVEL_RANGES, toDb } from '@tambur/core';
import { useState } from 'react';
import { Button } from '../../ui/button.tsx';
import { Choice } from '../../ui/choice.tsx';
import { Figures } from '../../ui/figures.tsx';
import { NumberField } from '../../ui/number-field.tsx';
import { Toggle } from '../../ui/toggle.tsx';
import { EvenOutDialog } from '../even-out-dialog.tsx';
import type { PanelProps } from './panel.ts';
import { type Change, wishWith } from './wish.ts';

type Wish = Exclude<ClipSettings['level'], 'automatic'>;
type Goal = 'gainDb' | 'peakDb' | 'truePeakDb' | 'loudness';

const GOALS: readonly { readonly goal: Goal; readonly label: string; readonly unit: string; readonly usual: number }[] =
  [
    { goal: 'peakDb', label: 'To a peak', unit: 'dBFS', usual: -1 },
    { goal: 'truePeakDb', label: 'To a true peak', unit: 'dBTP', usual: -1 },
    { goal: 'loudness', label: 'To a loudness', unit: 'LUFS', usual: -16 },
    { goal: 'gainDb', label: 'By a gain', unit: 'dB', usual: 0 },
  ];

/** Corners for small loudspeakers, Hz (common practice, no source). */
const CORNERS = [80, 120, 200, 300];
const USUAL_LIMIT = -1;
/** Below one gating block a loudness is that of the whole, without gates. */
const GATING_BLOCK = 0.4;

/** How loud, what is taken out, the limiter; with the headroom as a figure. */
export function LevelPanel({ settings, source, target, preview, store, saving, onChange }: PanelProps) {
  const wish: Wish = settings.level === 'automatic' ? {} : settings.level;
  const [isEvening, setIsEvening] = useState(false);
  const report = preview?.report;
  const measures = preview?.facts.measures;
  const chosen = GOALS.find(({ goal }) => wish[goal] !== undefined);
  const set = (change: Change<Wish>) => onChange({ level: wishWith(settings.level, change) });
  const none = {
    gainDb: undefined,
    peakDb: undefined,
    truePeakDb: undefined,
    loudness: undefined,
    ceilingDb: undefined,
  };
  const seconds = preview ? preview.facts.frames / preview.facts.sampleRate : 1;
  return (
    <div className="flex flex-wrap gap-x-10 gap-y-3">
      <div className="grid content-start gap-3">
        <Choice<'automatic' | Goal>
          name="Level"
          value={chosen?.goal ?? 'automatic'}
          onChange={(goal) => {
            const usual =
              goal === 'gainDb'
                ? Math.round((report?.gainDb ?? 0) * 10) / 10
                : GOALS.find((g) => g.goal === goal)?.usual;
            set({ ...none, ...(goal === 'automatic' ? {} : { [goal]: usual }) });
          }}
          options={[
            { value: 'automatic', label: 'Automatic' },
            ...GOALS.map(({ goal, label }) => ({ value: goal, label })),
          ]}
        />
        {chosen && (
          <div className="flex flex-wrap items-end gap-x-6 gap-y-2">
            <NumberField
              label={chosen.goal === 'gainDb' ? 'Gain' : 'Goal'}
              unit={chosen.unit}
              decimals={1}
              value={wish[chosen.goal] ?? 0}
              range={chosen.goal === 'gainDb' ? LEVEL_RANGES.gainDb : GOAL_RANGE}
              onChange={(value) => set({ [chosen.goal]: value })}
            />
            {chosen.goal === 'loudness' && wish.limitDb === undefined && (
              <NumberField
                label="True peak at most"
                unit="dBTP"
                decimals={1}
                value={wish.ceilingDb ?? -1}
                range={GOAL_RANGE}
                onChange={(ceilingDb) => set({ ceilingDb })}
              />
            )}
          </div>
        )}
        <div className="flex flex-wrap items-center gap-x-6 gap-y-2">
          <Toggle
            label="Remove the DC offset"
            value={wish.removeDc ?? false}
            onChange={(removeDc) => set({ removeDc })}
          />
          <Toggle
            label="Telephone band"
            value={wish.telephoneBand ?? false}
            onChange={(telephoneBand) => set({ telephoneBand })}
          />
          <Toggle
            label="Limiter"
            value={wish.limitDb !== undefined}
            onChange={(on) => set({ limitDb: on ? USUAL_LIMIT : undefined })}
          />
          {wish.limitDb !== undefined && (
            <NumberField
              label="Ceiling"
              unit="dBFS"
              decimals={1}
              value={wish.limitDb}
              range={GOAL_RANGE}
              onChange={(limitDb) => set({ limitDb })}
            />
          )}
        </div>
        <div className="flex flex-wrap items-end gap-x-6 gap-y-2">
          <Choice<number>
            name="High-pass for small loudspeakers"
            value={wish.highPass ?? 0}
            onChange={(hz) => set({ highPass: hz || undefined })}
            options={[
              { value: 0, label: 'Off' },
              ...[...new Set([...CORNERS, ...(wish.highPass ? [wish.highPass] : [])])]
                .toSorted((a, b) => a - b)
                .map((hz) => ({ value: hz, label: `${hz} Hz` })),
            ]}
          />
          <Button className="text-sm" onClick={() => setIsEvening(true)}>
            Even out all clips …
          </Button>
        </div>
      </div>
      {report && measures && (
        <Figures
          wide
          list={[
            { label: 'source at full scale', value: `${formatCount(source.facts.levels.fullScaleFrames)} frames` },
            { label: 'peak before', value: formatLevel(report.peakBefore) },
            { label: 'gain', value: formatDb(report.gainDb, 'dB', true) },
            {
              label: 'headroom left',
              value: report.headroomDb === null ? 'silence' : formatDb(report.headroomDb, 'dB'),
              isTrouble: (report.headroomDb ?? 0) < 0 && report.limited === null,
            },
            {
              label: 'flattened',
              value: `${formatCount(report.clippedFrames)} frames`,
              isTrouble: report.clippedFrames > 0,
            },
            report.limited && {
              label: 'limited',
              value: `${formatCount(report.limited.frames)} frames, ${formatDb(report.limited.mostDb, 'dB')} at most`,
            },
            { label: 'true peak', value: formatDb(toDb(measures.truePeak), 'dBTP') },
            {
              label: 'loudness',
              value:
                measures.loudness === null
                  ? 'silence'
                  : formatDb(measures.loudness, 'LUFS') + (seconds < GATING_BLOCK ? ', of the whole' : ''),
            },
            measures.loudestTerm === null
              ? null
              : { label: 'loudest 3 s', value: formatDb(measures.loudestTerm, 'LUFS') },
            measures.loudnessRange === null
              ? null
              : { label: 'loudness range', value: formatDb(measures.loudnessRange, 'LU') },
          ]}
        />
      )}
      {isEvening && (
        <EvenOutDialog store={store} target={target} undo={saving.undo} onClose={() => setIsEvening(false)} />
      )}
    </div>
  );
}
