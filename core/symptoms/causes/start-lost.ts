import { formatSeconds } from '../../words/index.ts';
import type { Cause } from '../cause.ts';

export const startLost: Cause = {
  id: 'start-lost',
  title: 'The device loses its beginning',
  tellApart: 'The beginning is there on a computer.',
  try({ facts, player: { locks } }) {
    if (!facts || !locks) return null;
    const seconds = facts.measures.leadingSilence / facts.sampleRate;
    if (seconds >= locks.seconds) return null;
    return {
      signs: { 'start-missing': 0.95 },
      seen: `The device needs ${formatSeconds(locks.seconds)} to lock on, and the sound begins after ${formatSeconds(seconds)}.`,
      mend: { words: 'put silence in front', where: 'job', station: 'ends', wish: 'automatic' },
    };
  },
};
