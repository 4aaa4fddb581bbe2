import { formatSeconds } from '../../words/index.ts';
import type { Cause } from '../cause.ts';

export const lateStart: Cause = {
  id: 'late-start',
  title: 'There is silence before its sound',
  tellApart: 'It starts late on every device.',
  try({ facts, player }) {
    if (!facts || player.locks) return null;
    const seconds = facts.measures.leadingSilence / facts.sampleRate;
    if (seconds < 0.4 || facts.measures.leadingSilence >= facts.frames) return null;
    return {
      signs: { 'start-missing': Math.min(0.95, 0.6 + seconds / 4) },
      seen: `The first ${formatSeconds(seconds)} are silent.`,
      mend: { words: 'trim the silence', where: 'job', station: 'ends', wish: { trim: {} } },
    };
  },
};
