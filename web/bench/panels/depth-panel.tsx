import { Choice } from '../../ui/choice.tsx';
import { NumberField } from '../../ui/number-field.tsx';
import type { PanelProps } from '../station-panel.tsx';

/** How many levels, and dither. */
export function DepthPanel({ chain, settings, onChange }: PanelProps) {
  const { bits, dither } = chain.stations.depth.plan;
  if (bits === null) return <p className="text-sm">Floating-point samples are stored as they are.</p>;
  const wish = settings.depth === 'automatic' ? {} : settings.depth;
  return (
    <div className="flex flex-wrap items-end gap-x-8 gap-y-3">
      <NumberField
        label="Levels used"
        unit="bit"
        value={bits}
        min={2}
        max={32}
        onChange={(value) => onChange({ depth: { ...wish, bits: Math.round(value) } })}
      />
      <Choice<'triangular' | 'none'>
        name="Rounding"
        value={dither}
        onChange={(value) => onChange({ depth: { ...wish, dither: value } })}
        options={[
          { value: 'triangular', label: 'Triangular dither' },
          { value: 'none', label: 'Plain' },
        ]}
      />
    </div>
  );
}
