import { inForm, within } from '../../forms/index.ts';
import { formatRate } from '../../words/index.ts';
import { playedAt, type Trait } from '../trait.ts';

/** Hz at which the device plays whatever a file states. */
export const playsAt: Trait<'plays-at', number> = {
  id: 'plays-at',
  title: 'Rate at which it plays',
  schema: inForm(within({ least: 1, most: 1_000_000 }), { label: 'Whatever is stated', unit: 'Hz', usual: 8000 }),
  words: (hz) => `plays at ${formatRate(hz)} whatever is stated`,
  implies: (hz) => [{ kind: 'sample-rate', anyOf: [hz] }],
  otherwise: [
    {
      kind: 'sample-rate',
      words: 'plays it at this rate all the same',
      value: ({ anyOf }) => (Array.isArray(anyOf) && anyOf.length === 1 ? anyOf[0] : undefined),
    },
  ],
  take: (sampleRate, taken) => playedAt(taken, sampleRate),
};
