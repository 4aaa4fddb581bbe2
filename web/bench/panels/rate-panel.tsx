import { fit, formatBytes, formatRate, InputError, soundBytesOf } from '@tambur/core';
import { Choice } from '../../ui/choice.tsx';
import { NumberField } from '../../ui/number-field.tsx';
import type { PanelProps } from '../station-panel.tsx';

/** Rates that devices commonly play. */
const COMMON = [8_000, 11_025, 16_000, 22_050, 32_000, 44_100, 48_000];

/** The rate, and what each common one costs. */
export function RatePanel({ chain, settings, source, target, onChange }: PanelProps) {
  const { to } = chain.stations.rate.plan;
  const bytesAt = (sampleRate: number) => {
    try {
      return formatBytes(soundBytesOf(fit(source.facts, { ...settings, rate: { sampleRate } }, target)));
    } catch (error) {
      if (error instanceof InputError) return undefined;
      throw error;
    }
  };
  const value = settings.rate === 'automatic' ? 'automatic' : settings.rate.sampleRate;
  return (
    <div className="flex flex-wrap items-end gap-x-8 gap-y-3">
      <Choice<'automatic' | number>
        name="Sample rate"
        value={value}
        onChange={(rate) => onChange({ rate: rate === 'automatic' ? rate : { sampleRate: rate } })}
        options={[
          { value: 'automatic', label: 'Automatic' },
          ...COMMON.map((rate) => ({ value: rate, label: formatRate(rate), detail: bytesAt(rate) })),
        ]}
      />
      <NumberField
        label="Another rate"
        unit="Hz"
        value={to}
        min={1000}
        max={192_000}
        onChange={(sampleRate) => onChange({ rate: { sampleRate: Math.round(sampleRate) } })}
      />
    </div>
  );
}
