import { deadChannels } from '../../audio/index.ts';
import { formatLevel } from '../../words/index.ts';
import type { Cause } from '../cause.ts';

export const deadSide: Cause = {
  id: 'dead-side',
  title: 'One of its sides is silent',
  tellApart: 'With headphones one ear hears nothing.',
  try({ facts }) {
    const dead = facts ? deadChannels(facts.levels) : [];
    if (!facts || facts.channels < 2 || dead.length === 0) return null;
    const words = facts.levels.rms.map((level, i) => `channel ${i + 1} at ${formatLevel(level)}`).join(', ');
    return {
      signs: { 'one-side': 0.97, 'too-quiet': 0.4 },
      seen: `On average ${words}.`,
      mend: {
        words: 'take the side that has the sound',
        where: 'job',
        station: 'channels',
        wish: { mode: 'one', channel: facts.levels.rms.indexOf(Math.max(...facts.levels.rms)) },
      },
    };
  },
};
