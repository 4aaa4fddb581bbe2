import * as v from 'valibot';
import { inForm, oneOf, wholeWithin } from '../../forms/index.ts';
import type { Trait } from '../trait.ts';

const VELOCITY = { fixed: 'equally loud, however it is struck', follows: 'louder, the harder it is struck' } as const;

const schema = v.strictObject({
  velocity: inForm(oneOf(VELOCITY), { label: 'A sound is', usual: 'follows' }),
  /** Sounds at once; a further one ends the oldest. */
  voices: inForm(wholeWithin({ least: 1, most: 64 }), { label: 'At once', unit: 'sounds', usual: 8 }),
});

/**
 * How loud a struck sound is: amplitude follows the square of the velocity (the concave transform of Downloadable Sounds
 * Level 1, from memory).
 */
export const strikes: Trait<'strikes', v.InferOutput<typeof schema>> = {
  id: 'strikes',
  title: 'How it answers to strikes',
  schema,
  words: ({ velocity, voices }) =>
    `plays sounds ${VELOCITY[velocity]}, ${voices === 1 ? 'one at a time' : `${voices} at once`}`,
  moment: ({ velocity: kind }, { velocity }) => (kind === 'fixed' ? {} : { gain: velocity ** 2 }),
};
