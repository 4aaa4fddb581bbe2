import type { Target } from '@tambur/core';
import { Select } from '../ui/select.tsx';
import { VariantChoice } from './variant-choice.tsx';

interface Props {
  readonly targets: readonly Pick<Target, 'id' | 'name'>[];
  readonly target: Target;
  readonly variantId: string | null;
  /** Another device has no variant yet. */
  readonly onChange: (targetId: string, variantId: string | null) => void;
}

/** Which device a card is for, in which variant, and what that is. */
export function DeviceChoice({ targets, target, variantId, onChange }: Props) {
  return (
    <div>
      <Select
        label="Device"
        value={target.id}
        onChange={(id) => onChange(id, null)}
        options={targets.map(({ id, name }) => ({ value: id, label: name }))}
      />
      <div className="mt-3">
        <VariantChoice target={target} value={variantId} onChange={(variant) => onChange(target.id, variant)} />
      </div>
      <p className="mt-2 text-sm text-graphite">{target.about}</p>
    </div>
  );
}
