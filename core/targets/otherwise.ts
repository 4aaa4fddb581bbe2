import * as v from 'valibot';
import { allTraits, impliedBy, type Player, traitsOf } from '../standin/index.ts';
import { askedBy, followingFrom } from './asked.ts';
import { type Requirement, requirementKinds } from './requirements/index.ts';
import type { Target } from './target.ts';

/** The parts of a sheet, or of a variant, from which it follows what it asks. */
export type AskingParts = Pick<Target, 'requirements' | 'player'> & Partial<Pick<Target, 'without'>>;

/** What a device may do with a file that does not meet a requirement: "refuses the file". */
export interface OtherwiseChoice {
  readonly id: string;
  readonly words: string;
  /** What becomes of a player that does this. */
  readonly player: Player;
}

/** One subject of a sheet: what of one kind is asked, and where that comes from. */
export interface AskedRow {
  readonly kind: Requirement['kind'];
  /** All of the kind that is asked; nothing while a trait from which it follows is not complete. */
  readonly asked: readonly Requirement[];
  /** Those that stand in the sheet itself. */
  readonly written: readonly Requirement[];
  /** Traits from which one follows. */
  readonly traits: readonly string[];
  /** True if one of these says what the device does with anything else. */
  readonly isAnswered: boolean;
}

/** True if a trait says what a device does with files that do not meet a kind of requirement. */
const answers = (id: string, kind: string): boolean =>
  allTraits.some((trait) => trait.id === id && trait.otherwise?.some((entry) => entry.kind === kind));

const valueIn = (player: Player, id: string) => player[id as keyof Player] as object | undefined;

/** True if two values have the same entries, in whatever order. */
function isSame(a: unknown, b: unknown): boolean {
  if (typeof a !== 'object' || typeof b !== 'object' || a === null || b === null) return a === b;
  const [one, other] = [Object.entries(a), new Map(Object.entries(b))];
  return one.length === other.size && one.every(([key, value]) => other.has(key) && isSame(value, other.get(key)));
}

/** What is said of a player: a trait that is undefined says nothing. */
const traitValues = (player: Player) =>
  Object.fromEntries(traitsOf(player).map(({ trait, value }) => [trait.id, value]));

/** What a sheet asks, a row for each kind. */
export function askedRows(parts: AskingParts): readonly AskedRow[] {
  const all = askedBy(parts);
  const following = new Set(followingFrom(parts.player).requirements.map(({ kind }) => kind));
  return requirementKinds.flatMap(({ kind }) => {
    const asked = all.filter((entry) => entry.kind === kind);
    const traits = traitsOf(parts.player)
      .map(({ trait }) => trait.id)
      .filter((id) => impliedBy(parts.player, id).some((implied) => implied.kind === kind));
    const written = parts.requirements.filter((entry) => entry.kind === kind);
    // What follows and is not asked has no row.
    if (asked.length === 0 && (traits.length === 0 || following.has(kind as Requirement['kind']))) return [];
    return [
      { kind: kind as Requirement['kind'], asked, written, traits, isAnswered: traits.some((id) => answers(id, kind)) },
    ];
  });
}

/** What a device that takes what is asked may do with anything else, so that what is asked stays what it is. */
export const otherwiseChoices = (asked: Requirement, player: Player): readonly OtherwiseChoice[] =>
  allTraits.flatMap(({ id, schema, otherwise = [] }) =>
    otherwise.flatMap((entry, i) => {
      if (entry.kind !== asked.kind) return [];
      const value = v.safeParse(schema, entry.value({ ...asked }, valueIn(player, id)));
      if (!value.success) return [];
      const changed = { ...withoutAnswers(player, asked.kind), [id]: value.output } as Player;
      const follows = followingFrom(changed).requirements.find(({ kind }) => kind === asked.kind);
      return isSame({ ...follows, key: asked.key }, asked)
        ? [{ id: `${id} ${i}`, words: entry.words, player: changed }]
        : [];
    }),
  );

/** Which of the choices is what the sheet says already; null if it says nothing, or something else. */
export const choiceMade = (choices: readonly OtherwiseChoice[], player: Player): OtherwiseChoice | null =>
  choices.find((choice) => isSame(traitValues(choice.player), traitValues(player))) ?? null;

/** A sheet that says what the device does with anything else, and no longer writes what follows from that. */
export const withOtherwise = (parts: AskingParts, asked: Requirement, { player }: OtherwiseChoice): AskingParts => ({
  requirements: parts.requirements.filter(({ key }) => key !== asked.key),
  player,
});

/** A sheet in which it is not known what the device does with anything else: what followed is written. */
export const withoutOtherwise = (parts: AskingParts, kind: Requirement['kind']): AskingParts => {
  const player = withoutAnswers(parts.player, kind);
  const still = new Set(followingFrom(player).requirements.map(({ key }) => key));
  const others = new Set([...parts.requirements.map(({ key }) => key), ...(parts.without ?? [])]);
  const lost = followingFrom(parts.player).requirements.filter(({ key }) => !still.has(key) && !others.has(key));
  return { requirements: [...parts.requirements, ...lost], player };
};

/** A player without the traits that answer to a kind. */
function withoutAnswers(player: Player, kind: Requirement['kind']): Player {
  return Object.fromEntries(Object.entries(player).filter(([id]) => !answers(id, kind))) as Player;
}
