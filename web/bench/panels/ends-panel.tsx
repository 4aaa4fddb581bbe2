import { formatLength } from '@tambur/core';
import { Choice } from '../../ui/choice.tsx';
import type { PanelProps } from '../station-panel.tsx';

/** What happens to a block that is not full, in frames of the result. */
export function EndsPanel({ chain, settings, onChange }: PanelProps) {
  const { incoming, frames } = chain.stations.ends.plan;
  const rate = chain.stations.rate.plan.to;
  return (
    <div className="flex flex-wrap gap-x-10 gap-y-3">
      <Choice<'automatic' | 'trim' | 'pad'>
        name="A block that is not full"
        value={settings.ends === 'automatic' ? 'automatic' : settings.ends.block}
        onChange={(value) => onChange({ ends: value === 'automatic' ? value : { block: value } })}
        options={[
          { value: 'automatic', label: 'Automatic' },
          { value: 'trim', label: 'Trim it' },
          { value: 'pad', label: 'Pad with silence' },
        ]}
      />
      <dl className="grid grid-cols-[auto_auto] gap-x-4 text-sm">
        <dt className="text-graphite">from the cut</dt>
        <dd className="figure">{formatLength(incoming, rate)}</dd>
        <dt className="text-graphite">delivered</dt>
        <dd className="figure">{formatLength(frames, rate)}</dd>
      </dl>
    </div>
  );
}
