import { allTraits, type Player } from '@tambur/core';
import { OptionalPart } from './optional-part.tsx';

type Values = Readonly<Record<string, unknown>>;

/** The one entry of a trait that is a single value has an empty key. */
const entriesOf = (value: unknown): Values | undefined =>
  value === undefined ? undefined : typeof value === 'object' ? (value as Values) : { '': value };
const traitOf = (entries: Values): unknown => ('' in entries ? entries[''] : entries);

/** What is known of how a device reads a card, trait by trait. */
export function PlayerForm({ player, onChange }: { player: Player; onChange: (player: Player) => void }) {
  const values = player as Values;
  return allTraits.map(({ id, title, fields, usual }) => (
    <OptionalPart
      key={id}
      label={title}
      fields={fields}
      usual={entriesOf(usual) ?? {}}
      value={entriesOf(values[id])}
      onChange={(entries) => {
        const rest = Object.fromEntries(Object.entries(values).filter(([name]) => name !== id));
        onChange((entries ? { ...rest, [id]: traitOf(entries) } : rest) as Player);
      }}
    />
  ));
}
