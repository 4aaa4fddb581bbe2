import { type ClipSettings, deadChannels, formatLevel, WEIGHT_RANGE } from '@tambur/core';
import { Choice, type Option } from '../../ui/choice.tsx';
import { Figures } from '../../ui/figures.tsx';
import { NumberField } from '../../ui/number-field.tsx';
import { Select } from '../../ui/select.tsx';
import type { PanelProps } from './panel.ts';

type Wish = Exclude<ClipSettings['channels'], 'automatic'>;
type Mode = Wish['mode'];

const SIDES = ['left', 'right'];
const MINUS = '\u2212';
const signed = (value: number) => value.toFixed(2).replace('-', MINUS);

/** What can be chosen for a source with so many channels. */
function modesFor(channels: number): Option<'automatic' | Mode>[] {
  const automatic = { value: 'automatic' as const, label: 'Automatic' };
  const keep = { value: 'keep' as const, label: 'As they are' };
  if (channels === 1) return [automatic, keep, { value: 'stereo', label: 'On both sides' }];
  const mixes: Option<Mode>[] = [
    { value: 'mix', label: 'Mix', detail: channels === 2 ? 'mean' : 'BS.775' },
    { value: 'equal-power', label: 'Mix', detail: 'equal power' },
  ];
  const weights = { value: 'weights' as const, label: 'Weights' };
  if (channels === 2) {
    return [
      automatic,
      { value: 'left', label: 'Keep left' },
      { value: 'right', label: 'Keep right' },
      ...mixes,
      { value: 'side', label: 'Side', detail: 'left − right' },
      weights,
      keep,
    ];
  }
  return [
    automatic,
    { value: 'one', label: 'Keep one' },
    ...mixes,
    { value: 'stereo', label: 'To stereo' },
    weights,
    keep,
  ];
}

/** Which channels are used, with what was measured of them. */
export function ChannelsPanel({ chain, settings, source, onChange }: PanelProps) {
  const { levels, channels, layout } = source.facts;
  const wish = settings.channels === 'automatic' ? null : settings.channels;
  const dead = deadChannels(levels);
  const nameOf = (channel: number) =>
    channels === 1
      ? 'mono'
      : (layout?.[channel] ?? (channels === 2 ? SIDES[channel] : null) ?? `channel ${channel + 1}`);
  const weights = wish?.weights ?? chain.stations.channels.plan.matrix[0] ?? [];
  const choose = (mode: 'automatic' | Mode) =>
    onChange({
      channels:
        mode === 'automatic'
          ? mode
          : mode === 'weights'
            ? { mode, weights: Array.from({ length: channels }, (_, i) => weights[i] ?? 0) }
            : { mode },
    });
  return (
    <div className="flex flex-wrap gap-x-10 gap-y-3">
      <div className="grid content-start gap-3">
        <Choice name="Use" value={wish?.mode ?? 'automatic'} onChange={choose} options={modesFor(channels)} />
        {wish?.mode === 'one' && (
          <Select
            label="Channel"
            value={String(wish.channel ?? 0)}
            options={Array.from({ length: channels }, (_, i) => ({ value: String(i), label: nameOf(i) }))}
            onChange={(value) => onChange({ channels: { mode: 'one', channel: Number(value) } })}
          />
        )}
        {wish?.mode === 'weights' && (
          <div className="flex flex-wrap gap-x-4 gap-y-2">
            {Array.from({ length: channels }, (_, channel) => (
              <NumberField
                key={nameOf(channel)}
                label={nameOf(channel)}
                unit="×"
                decimals={3}
                range={WEIGHT_RANGE}
                value={weights[channel] ?? 0}
                onChange={(value) =>
                  onChange({
                    channels: {
                      mode: 'weights',
                      weights: Array.from({ length: channels }, (_, i) => (i === channel ? value : (weights[i] ?? 0))),
                    },
                  })
                }
              />
            ))}
          </div>
        )}
      </div>
      <Figures
        list={[
          ...levels.peak.map((peak, channel) => ({
            label: `${nameOf(channel)} peak`,
            value: (
              <>
                {formatLevel(peak)} {dead.includes(channel) && <span className="text-saffron">silent</span>}
              </>
            ),
          })),
          levels.correlation === null
            ? null
            : {
                label: 'correlation',
                value: (
                  <>
                    {signed(levels.correlation)}{' '}
                    {levels.correlation < -0.5 && <span className="text-saffron">a mix would cancel</span>}
                  </>
                ),
              },
          ...chain.stations.channels.plan.matrix.map((row, i, rows) => ({
            label: rows.length === 1 ? 'out' : `out ${i + 1}`,
            value:
              row
                .flatMap((weight, channel) => (weight === 0 ? [] : [`${signed(weight)} × ${nameOf(channel)}`]))
                .join(' + ') || 'silence',
          })),
        ]}
      />
    </div>
  );
}
