import { allTraits, type Player, usualIn } from '@tambur/core';
import { OptionalPart } from './optional-part.tsx';

/** What is known of how a device reads a card, trait by trait. */
export function PlayerForm({ player, onChange }: { player: Player; onChange: (player: Player) => void }) {
  const values = player as Readonly<Record<string, unknown>>;
  return allTraits.map(({ id, title, schema }) => (
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
