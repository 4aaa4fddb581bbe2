import { deadChannels, formatLevel } from '@tambur/core';
import { Choice } from '../../ui/choice.tsx';
import type { PanelProps } from '../station-panel.tsx';

const SIDES = ['left', 'right'];

/** Which channels are used, with what was measured of them. */
export function ChannelsPanel({ settings, source, onChange }: PanelProps) {
  const { levels, channels } = source.facts;
  const mode = settings.channels === 'automatic' ? 'automatic' : settings.channels.mode;
  const dead = deadChannels(levels);
  return (
    <div className="flex flex-wrap gap-x-10 gap-y-3">
      <Choice<'automatic' | 'left' | 'right' | 'mix' | 'keep'>
        name="Use"
        value={mode}
        onChange={(value) => onChange({ channels: value === 'automatic' ? value : { mode: value } })}
        options={[
          { value: 'automatic', label: 'Automatic' },
          ...(channels > 1
            ? ([
                { value: 'left', label: 'Keep left' },
                { value: 'right', label: 'Keep right' },
                { value: 'mix', label: 'Mix' },
              ] as const)
            : []),
          { value: 'keep', label: 'As they are' },
        ]}
      />
      <dl className="grid grid-cols-[auto_auto] gap-x-4 text-sm">
        {levels.peak.map((peak, channel) => {
          const name = channels === 1 ? 'mono' : (SIDES[channel] ?? `channel ${channel + 1}`);
          return (
            <div key={name} className="col-span-2 grid grid-cols-subgrid">
              <dt className="text-graphite">{name} peak</dt>
              <dd className="figure">
                {formatLevel(peak)} {dead.includes(channel) && <span className="text-saffron">silent side</span>}
              </dd>
            </div>
          );
        })}
        {levels.correlation !== null && (
          <div className="col-span-2 grid grid-cols-subgrid">
            <dt className="text-graphite">correlation</dt>
            <dd className="figure">
              {levels.correlation.toFixed(2).replace('-', '\u2212')}{' '}
              {levels.correlation < -0.5 && <span className="text-saffron">a mix would cancel</span>}
            </dd>
          </div>
        )}
      </dl>
    </div>
  );
}
