import { formatCount } from '../../words/index.ts';
import type { Cause } from '../cause.ts';

export const memoryFull: Cause = {
  id: 'memory-full',
  title: 'The memory of the device is full',
  tellApart: 'With fewer or shorter sounds the missing ones come back.',
  try({ inserted, refusal, player }) {
    const missing = inserted.refused.filter(({ word }) => word === 'memory full');
    if (!player.holds || missing.length === 0) return null;
    const isThis = refusal?.word === 'memory full';
    return {
      signs: { 'others-vanished': 0.95, ...(isThis ? { refused: 0.9, 'not-listed': 0.9, silence: 0.5 } : {}) },
      seen: `Of ${formatCount(player.holds.bytes)} bytes there is no room for ${missing.map(({ path }) => path).join(', ')}.`,
      mend: { words: 'make sounds shorter, or their rate lower, until all fit', where: 'job' },
    };
  },
};
