import type { Target } from '@tambur/core';
import { Choice } from '../ui/choice.tsx';

interface Props {
  readonly target: Pick<Target, 'variants'>;
  readonly value: string | null;
  readonly onChange: (value: string | null) => void;
}

/** Which variant of a sheet; nothing if there is only one. */
export function VariantChoice({ target: { variants }, value, onChange }: Props) {
  if (variants.length === 0) return null;
  return (
    <Choice
      name="Variant"
      value={value}
      onChange={onChange}
      options={[{ value: null, label: 'usual' }, ...variants.map(({ id, name }) => ({ value: id, label: name }))]}
    />
  );
}
