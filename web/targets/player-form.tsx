import { allTraits, type Player, usualIn } from '@tambur/core';
import { OptionalPart } from './optional-part.tsx';

interface Props {
  readonly player: Player;
  /** Traits that stand somewhere else in the form. */
  readonly elsewhere: readonly string[];
  readonly onChange: (player: Player) => void;
}

/** What is known of how a device reads a card, trait by trait. */
export function PlayerForm({ player, elsewhere, onChange }: Props) {
  const values = player as Readonly<Record<string, unknown>>;
  const shown = allTraits.filter(({ id }) => !elsewhere.includes(id));
  return shown.map(({ id, title, schema }) => (
    <OptionalPart<unknown>
      key={id}
      label={title}
      schema={schema}
      usual={usualIn(schema)}
      value={values[id]}
      onChange={(value) => {
        const { [id]: _, ...rest } = values;
        onChange((value === undefined ? rest : { ...rest, [id]: value }) as Player);
      }}
    />
  ));
}
