import { formatLevel } from '../../words/index.ts';
import type { Cause } from '../cause.ts';

export const silentFile: Cause = {
  id: 'silent-file',
  title: 'It holds silence',
  tellApart: 'The file is silent on a computer too.',
  try({ facts }) {
    const peak = Math.max(...(facts?.levels.peak ?? [1]));
    if (!facts || peak >= 1e-4) return null;
    return {
      signs: { silence: 0.97, 'too-quiet': 0.8 },
      seen: `No sample is above ${formatLevel(Math.max(peak, 1e-5))}.`,
      mend: {
        words: 'choose another source, or the channel that has the sound',
        where: 'job',
        station: 'channels',
        wish: 'automatic',
      },
    };
  },
};
