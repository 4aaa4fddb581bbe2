import { isRefusal, listingOf, takeFile } from '../standin/index.ts';
import type { Cause, Suspicion } from './cause.ts';
import type { Evidence } from './evidence.ts';

type TraitId = keyof Evidence['player'];

const without = ({ player }: Evidence, trait: TraitId) => ({ ...player, [trait]: undefined });

/** True where the device would at least look at the file if it did not do that. */
export function isHiddenBy(evidence: Evidence, trait: TraitId): boolean {
  const { player, shown, refusal, inserted, situation, file } = evidence;
  if (player[trait] === undefined || shown || refusal) return false;
  const lists = situation.isWhole ? situation.device.lists : [];
  const other = listingOf(inserted.seen, { player: without(evidence, trait), lists });
  return [...other.shown.map((entry) => entry.file), ...other.refused].some(({ path }) => path === file.path);
}

/** True where the device would accept what it opens, or refuse it for something else, if it did not do that. */
export async function isRefusedBy(evidence: Evidence, trait: TraitId): Promise<boolean> {
  const { player, answer, refusal, file, situation } = evidence;
  // What it has not opened it has refused for something else.
  if (player[trait] === undefined || !isRefusal(answer) || answer.reason !== refusal?.reason) return false;
  const other = await takeFile(file.bytes, null, without(evidence, trait), situation.openForeign);
  return !isRefusal(other) || other.reason !== answer.reason;
}

/** What is refused is not heard either. */
export const refusedSigns = { refused: 0.95, silence: 0.5 } as const;

interface Words extends Pick<Cause, 'id' | 'title' | 'tellApart'> {
  readonly mend: Suspicion['mend'];
}

/** A cause for which the device refuses a file: traits of which each may do that. */
export const refusedCause = ({ mend, ...words }: Words, ...traits: readonly TraitId[]): Cause => ({
  ...words,
  async try(evidence) {
    for (const trait of traits) {
      if (await isRefusedBy(evidence, trait))
        return { signs: refusedSigns, seen: evidence.refusal?.reason ?? '', mend };
    }
    return null;
  },
});

/** A cause for which the device does not show a file. @param seen what is to be seen of that, in a sentence */
export const hiddenCause = (
  { mend, ...words }: Words,
  trait: TraitId,
  seen: (evidence: Evidence) => string,
): Cause => ({
  ...words,
  try: (evidence) =>
    isHiddenBy(evidence, trait) ? { signs: { 'not-listed': 0.95 }, seen: seen(evidence), mend } : null,
});
