import { formatCount } from '../../words/index.ts';
import type { Cause } from '../cause.ts';
import { mixed, rmsOf } from '../measures.ts';

export const partBlock: Cause = {
  id: 'part-block',
  title: 'Its length is no whole number of blocks',
  tellApart: 'Garbage or a gap after the last word, the same after each round.',
  try({ player: { block }, truth, played, facts }) {
    if (!block || !truth?.plain || !played || !facts) return null;
    const over = truth.plain.frames % block.frames;
    if (over === 0) return null;
    const sound = mixed(played);
    const from = Math.floor(sound.length / block.frames - 1e-9) * block.frames + over;
    const level = rmsOf(sound, from);
    return {
      signs: { 'gap-at-end': level > 0.003 ? 0.9 : 0.75 },
      seen: `${formatCount(truth.plain.frames)} frames are ${formatCount(over)} over a block of ${formatCount(block.frames)}; the device fills the other ${formatCount(block.frames - over)} itself.`,
      mend: { words: 'pad or trim it to whole blocks', where: 'job', station: 'ends', wish: 'automatic' },
    };
  },
};
