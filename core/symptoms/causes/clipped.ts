import { formatCount } from '../../words/index.ts';
import type { Cause } from '../cause.ts';
import { flatFrames } from '../measures.ts';

export const clipped: Cause = {
  id: 'clipped',
  title: 'Its peaks are cut off',
  tellApart: 'Loud places crackle, soft ones do not.',
  try({ sound }) {
    if (!sound) return null;
    const flat = flatFrames(sound);
    const share = flat / Math.max(1, sound.channels[0]?.length ?? 0);
    if (share < 0.002) return null;
    return {
      signs: { harsh: Math.min(0.95, 0.6 + 4 * share), 'garbled-in-rhythm': 0.3 },
      seen: `${formatCount(flat)} frames in a row at the same height, ${(100 * share).toFixed(1)} % of all: the peaks were cut off before this file was made, or while.`,
      mend: { words: 'lower the gain, or use another source', where: 'job', station: 'level', wish: 'automatic' },
    };
  },
};
