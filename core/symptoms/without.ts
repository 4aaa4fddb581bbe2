import { allTraits, isRefusal, listingOf, takeFile } from '../standin/index.ts';
import type { Cause, Suspicion } from './cause.ts';
import type { Evidence } from './evidence.ts';

type TraitId = keyof Evidence['player'];

const without = ({ player }: Evidence, traits: readonly TraitId[]) => ({
  ...player,
  ...Object.fromEntries(traits.map((trait) => [trait, undefined])),
});

/** What stands in the way of a file, worked out once for all causes. */
const hiding = new WeakMap<Evidence, readonly TraitId[]>();

/**
 * Traits because of which the device does not look at a file: each that hides it alone; where none does, each of two that do it
 * together; otherwise the fewest of all.
 */
function hiddenBy(evidence: Evidence): readonly TraitId[] {
  const known = hiding.get(evidence);
  if (known) return known;
  const { player, inserted, situation, file } = evidence;
  const lists = situation.isWhole ? situation.device.lists : [];
  const isSeenWithout = (traits: readonly TraitId[]): boolean => {
    const other = listingOf(inserted.seen, { player: without(evidence, traits), lists });
    return [...other.shown.map((entry) => entry.file), ...other.refused].some(({ path }) => path === file.path);
  };
  const all = (Object.keys(player) as TraitId[]).filter((trait) => player[trait] !== undefined);
  const found = culprits(all, isSeenWithout);
  hiding.set(evidence, found);
  return found;
}

/** Of all that may be in the way what is: alone, as a pair, or as the fewest without which something is overcome. */
function culprits<T>(all: readonly T[], isOvercomeWithout: (some: readonly T[]) => boolean): readonly T[] {
  const alone = all.filter((one) => isOvercomeWithout([one]));
  if (alone.length > 0) return alone;
  const pairs = all.flatMap((one, i) => all.slice(i + 1).map((other) => [one, other]));
  const together = pairs.filter(isOvercomeWithout);
  if (together.length > 0) return [...new Set(together.flat())];
  if (!isOvercomeWithout(all)) return [];
  return all.reduce<readonly T[]>((needed, one) => {
    const fewer = needed.filter((other) => other !== one);
    return isOvercomeWithout(fewer) ? fewer : needed;
  }, all);
}

/** True if the device would at least look at the file if it did not do that, and nothing else that is in the way. */
export function isHiddenBy(evidence: Evidence, trait: TraitId): boolean {
  const { player, shown, refusal } = evidence;
  return player[trait] !== undefined && !shown && !refusal && hiddenBy(evidence).includes(trait);
}

/** True if the device would accept what it opens, or refuse it for something else, if it did not do that. */
export async function isRefusedBy(evidence: Evidence, trait: TraitId): Promise<boolean> {
  const { player, answer, refusal, file, situation } = evidence;
  // What it has not opened it has refused for something else.
  if (player[trait] === undefined || !isRefusal(answer) || answer.reason !== refusal?.reason) return false;
  const other = await takeFile(file.bytes, null, without(evidence, [trait]), situation.openForeign);
  return !isRefusal(other) || other.reason !== answer.reason;
}

/** What is refused is not heard either. */
export const refusedSigns = { refused: 0.95, silence: 0.5 } as const;

/** A file of which nothing is heard because of a trait: it is refused, or played as silence. */
export async function stoppedBy(evidence: Evidence, trait: TraitId): Promise<Pick<Suspicion, 'signs' | 'seen'> | null> {
  const { answer, file, situation, refusal } = evidence;
  if (await isRefusedBy(evidence, trait)) return { signs: refusedSigns, seen: refusal?.reason ?? '' };
  const reason = silenceOf(answer);
  if (reason === null) return null;
  const other = await takeFile(file.bytes, null, without(evidence, [trait]), situation.openForeign);
  return silenceOf(other) === reason ? null : { signs: { silence: 0.95 }, seen: reason };
}

/** Why a device plays a file as silence; null if it does not. */
const silenceOf = (answer: Evidence['answer']): string | null =>
  !isRefusal(answer) && answer.kind === 'decoded' ? (answer.silenced ?? null) : null;

/** What a trait does to the files that are wrong for it: it hides them, or stops them. */
async function tryTrait(evidence: Evidence, { id, trouble }: (typeof allTraits)[number]): Promise<Suspicion | null> {
  const { player, file, situation } = evidence;
  const trait = id as TraitId;
  if (!trouble || player[trait] === undefined) return null;
  const mend = trouble.remedy;
  if (trouble.hidden) {
    if (!isHiddenBy(evidence, trait)) return null;
    return { signs: { 'not-listed': 0.95 }, seen: trouble.hidden(player[trait], file, situation.card), mend };
  }
  const stopped = await stoppedBy(evidence, trait);
  return stopped && { ...stopped, mend };
}

/** The causes that traits give as data: one for each trouble, whichever traits have it. */
export const ofTraits: readonly Cause[] = [
  ...new Map(allTraits.flatMap(({ trouble }) => (trouble ? [[trouble.id, trouble] as const] : []))).values(),
].map(({ id, title, tellApart }) => ({
  id,
  title,
  tellApart,
  async try(evidence) {
    for (const trait of allTraits) {
      const found = trait.trouble?.id === id ? await tryTrait(evidence, trait) : null;
      if (found) return found;
    }
    return null;
  },
}));
