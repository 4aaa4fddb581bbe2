import * as v from 'valibot';
import type { SymptomId } from './symptoms.ts';
import type { ImpliedRequirement, Trait } from './trait.ts';
import { traits } from './traits/list.ts';

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
  traitsOf(player).flatMap(({ trait, value }) => {
    const step = trait.step?.(value);
    return step?.at.includes(symptom) ? [step.words] : [];
  });

/** Requirements that follow from what a device does. */
export const impliedBy = (player: Player): readonly ImpliedRequirement[] =>
  traitsOf(player).flatMap(({ trait, value }) => trait.implies?.(value, player) ?? []);
