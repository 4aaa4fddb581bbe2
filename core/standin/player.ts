import * as v from 'valibot';
import type { Reading } from '../containers/index.ts';
import type { SymptomId } from './symptoms.ts';
import type { ImpliedRequirement, Trait } from './trait.ts';
import { traits } from './traits/list.ts';
import { rateMade } from './traits/timer.ts';

type AnyTrait = (typeof traits)[number];
type ValueOf<T> = T extends { readonly schema: v.GenericSchema<infer V> } ? V : never;

/** How a device reads a card and plays: what is known of it. What is left out is not known. */
export type Player = { readonly [T in AnyTrait as T['id']]?: ValueOf<T> | undefined };

/** Every trait, its value being of a type that only it knows. */
export const allTraits: readonly Trait<string, unknown>[] = traits as unknown as readonly Trait<string, unknown>[];

export const playerSchema = v.strictObject(
  Object.fromEntries(allTraits.map(({ id, schema }) => [id, v.optional(schema)])),
) as unknown as v.GenericSchema<Player>;

/** The traits of a player with their values, in the order of the list. */
export const traitsOf = (
  player: Player,
): readonly { readonly trait: Trait<string, unknown>; readonly value: unknown }[] =>
  allTraits.flatMap((trait) => {
    const value = player[trait.id as keyof Player];
    return value === undefined ? [] : [{ trait, value }];
  });

/** Hz at which a device plays whatever a file states; undefined if it goes by what is stated. */
export const fixedRate = ({ timer, 'plays-at': playsAt }: Player): number | undefined =>
  timer ? rateMade(timer)?.hz : playsAt;

/** How a device takes bare samples; undefined if its sheet does not say all of it. */
export function bareReading(player: Player): Reading | undefined {
  const sampleRate = fixedRate(player) ?? player.assumes?.sampleRate;
  return player.assumes && sampleRate !== undefined ? { ...player.assumes, sampleRate } : undefined;
}

/** What a device does, as clauses. */
export const playerWords = (player: Player): readonly string[] =>
  traitsOf(player).map(({ trait, value }) => trait.words(value));

/** Kinds of requirement of which the device gives a sign where a file does not meet them: it refuses or hides it, or plays it wrongly. */
export const revealedBy = (player: Player): ReadonlySet<string> =>
  new Set([
    ...impliedBy(player).map(({ kind }) => kind),
    ...traitsOf(player).flatMap(({ trait, value }) => trait.reveals?.(value, player) ?? []),
  ]);

/** What a device does in one respect; empty if nothing is known of that. */
export const traitWords = (player: Player, id: keyof Player): string =>
  traitsOf(player)
    .find(({ trait }) => trait.id === id)
    ?.trait.words(player[id]) ?? '';

/** What a person can try at such a device, whatever the file is. */
export const stepsAt = (player: Player, symptom: SymptomId): readonly string[] =>
  traitsOf(player).flatMap(({ trait, value }) =>
    (trait.steps?.(value) ?? []).flatMap(({ at, words }) => (at.includes(symptom) ? [words] : [])),
  );

/** Requirements that follow from what a device does. @param id of one trait: from that alone */
export const impliedBy = (player: Player, id?: string): readonly ImpliedRequirement[] =>
  traitsOf(player).flatMap(({ trait, value }) =>
    id === undefined || trait.id === id ? (trait.implies?.(value, player) ?? []) : [],
  );
