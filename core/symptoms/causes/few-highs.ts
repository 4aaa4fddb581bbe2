import { formatRate } from '../../words/index.ts';
import type { Cause } from '../cause.ts';

/** Hz: what has nothing above is dull at the rate of a telephone too (common practice, no source). */
const LEAST_HIGHS = 1500;

export const fewHighs: Cause = {
  id: 'few-highs',
  title: 'It has nothing high in it',
  tellApart: 'It is dull on every device.',
  try({ facts }) {
    const bandwidth = facts?.measures.bandwidth;
    if (!facts || !bandwidth || bandwidth >= Math.max(LEAST_HIGHS, facts.sampleRate / 6) || bandwidth > 5000)
      return null;
    return {
      // Some sounds have nothing high in them, and nothing is wrong with that.
      signs: { dull: 0.6 },
      seen: `There is nothing above ${formatRate(Math.round(bandwidth / 100) * 100)}, though its rate would hold ${formatRate(facts.sampleRate / 2)}.`,
      mend: {
        words: 'use a source that has not been at a lower rate',
        where: 'job',
        station: 'rate',
        wish: 'automatic',
      },
    };
  },
};
