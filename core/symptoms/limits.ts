import { formatCount, formatSeconds } from '../words/index.ts';
import type { Cause } from './cause.ts';
import type { Evidence } from './evidence.ts';
import { isRefusedBy, refusedSigns } from './without.ts';

/** Frames that a device plays of one sound, in whole blocks; all of them where nothing limits it. */
function mostFrames({ player, facts, file }: Evidence): number {
  const { frames, sampleRate } = facts ?? { frames: 0, sampleRate: 1 };
  const { seconds, frames: limit, bytes } = player['longest-sound'] ?? {};
  const most = Math.min(
    frames,
    limit ?? frames,
    seconds === undefined ? frames : Math.floor(seconds * sampleRate + 1e-6),
    bytes === undefined ? frames : Math.floor((frames * bytes) / Math.max(1, file.bytes.size)),
  );
  const block = player.block?.frames ?? 1;
  return Math.max(block, Math.floor(most / block) * block);
}

/** A cause that is a limit of the device: that of a file's size, or those of its length. */
export const limitCause = (
  limitOf: 'size' | 'length',
  { mend, ...words }: Pick<Cause, 'id' | 'title' | 'tellApart'> & { readonly mend: string },
): Cause => ({
  ...words,
  async try(evidence) {
    const { player, facts, played, file } = evidence;
    const limit = player['longest-sound'];
    if (!limit || !facts) return null;
    const isTooLarge = file.bytes.size > (limit.bytes ?? Number.POSITIVE_INFINITY);
    const isCut = played !== null && (played.channels[0]?.length ?? 0) < facts.frames;
    if (isTooLarge !== (limitOf === 'size') || !(isCut || (await isRefusedBy(evidence, 'longest-sound')))) return null;
    return {
      signs: isCut ? { 'cut-off': 0.95 } : { ...refusedSigns, 'not-listed': 0.6 },
      seen: `It has ${formatSeconds(facts.frames / facts.sampleRate)}, ${formatCount(facts.frames)} frames and ${formatCount(file.bytes.size)} bytes: more than the device takes.`,
      mend: { words: mend, where: 'job', station: 'ends', wish: { frames: mostFrames(evidence) } },
    };
  },
});
