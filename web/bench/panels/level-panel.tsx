import { formatCount, formatDb, formatLevel } from '@tambur/core';
import { Choice } from '../../ui/choice.tsx';
import { NumberField } from '../../ui/number-field.tsx';
import type { PanelProps } from '../station-panel.tsx';

/** A goal for the peak or a plain gain, with the headroom as a figure. */
export function LevelPanel({ settings, source, preview, onChange }: PanelProps) {
  const { level } = settings;
  const mode = level === 'automatic' ? 'automatic' : 'peakDb' in level ? 'peak' : 'gain';
  const report = preview?.report;
  return (
    <div className="flex flex-wrap items-end gap-x-8 gap-y-3">
      <Choice<'automatic' | 'peak' | 'gain'>
        name="Level"
        value={mode}
        onChange={(wanted) =>
          onChange({
            level:
              wanted === 'automatic'
                ? wanted
                : wanted === 'peak'
                  ? { peakDb: -1 }
                  : { gainDb: Math.round((report?.gainDb ?? 0) * 10) / 10 },
          })
        }
        options={[
          { value: 'automatic', label: 'Automatic' },
          { value: 'peak', label: 'To a peak' },
          { value: 'gain', label: 'By a gain' },
        ]}
      />
      {level !== 'automatic' && 'peakDb' in level && (
        <NumberField
          label="Peak"
          unit="dBFS"
          decimals={1}
          value={level.peakDb}
          min={-60}
          max={0}
          onChange={(peakDb) => onChange({ level: { peakDb } })}
        />
      )}
      {level !== 'automatic' && 'gainDb' in level && (
        <NumberField
          label="Gain"
          unit="dB"
          decimals={1}
          value={level.gainDb}
          min={-60}
          max={60}
          onChange={(gainDb) => onChange({ level: { gainDb } })}
        />
      )}
      {report && (
        <dl className="grid grid-cols-[auto_auto] gap-x-4 text-sm">
          <dt className="text-graphite">source at full scale</dt>
          <dd className="figure">{formatCount(source.facts.levels.fullScaleFrames)} frames</dd>
          <dt className="text-graphite">peak before</dt>
          <dd className="figure">{formatLevel(report.peakBefore)}</dd>
          <dt className="text-graphite">gain</dt>
          <dd className="figure">{formatDb(report.gainDb, 'dB', true)}</dd>
          <dt className="text-graphite">headroom left</dt>
          <dd className="figure">{report.headroomDb === null ? 'silence' : formatDb(report.headroomDb, 'dB')}</dd>
          <dt className="text-graphite">flattened</dt>
          <dd className={`figure ${report.clippedFrames ? 'font-semibold text-brick' : ''}`}>
            {formatCount(report.clippedFrames)} frames
          </dd>
        </dl>
      )}
    </div>
  );
}
