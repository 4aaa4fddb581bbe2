import * as v from 'valibot';
import { choicesOf, wholeWithin } from '../../forms/index.ts';
import type { Trait } from '../trait.ts';

const VELOCITY = { fixed: 'equally loud, however it is struck', follows: 'louder, the harder it is struck' } as const;

const schema = v.strictObject({
  velocity: v.picklist(['fixed', 'follows']),
  /** Sounds at once; a further one ends the oldest. */
  voices: wholeWithin({ least: 1, most: 64 }),
});

/**
 * How loud a struck sound is: amplitude follows the square of the velocity (the concave transform of Downloadable Sounds
 * Level 1, from memory).
 */
export const strikes: Trait<'strikes', v.InferOutput<typeof schema>> = {
  id: 'strikes',
  title: 'How it answers to strikes',
  schema,
  usual: { velocity: 'follows', voices: 8 },
  fields: [
    { key: 'velocity', label: 'A sound is', type: 'choice', options: choicesOf(VELOCITY) },
    { key: 'voices', label: 'At once', unit: 'sounds', type: 'number' },
  ],
  words: ({ velocity, voices }) =>
    `plays sounds ${VELOCITY[velocity]}, ${voices === 1 ? 'one at a time' : `${voices} at once`}`,
  moment: ({ velocity: kind }, { velocity }) => (kind === 'fixed' ? {} : { gain: velocity ** 2 }),
};
