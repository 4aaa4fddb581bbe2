import type { Cause } from '../cause.ts';

export const oppositePhase: Cause = {
  id: 'opposite-phase',
  title: 'Its sides are in opposite phase',
  tellApart: 'On one loudspeaker the middle is gone; with headphones it is there.',
  try({ facts }) {
    const correlation = facts?.levels.correlation ?? 0;
    if (!facts || correlation > -0.6) return null;
    return {
      signs: { thin: 0.95, 'too-quiet': 0.5, silence: correlation < -0.99 ? 0.5 : 0 },
      seen: `Left and right go against each other: a correlation of ${correlation.toFixed(2).replace('-', '\u2212')}.`,
      mend: { words: 'keep one side', where: 'job', station: 'channels', wish: { mode: 'left' } },
    };
  },
};
