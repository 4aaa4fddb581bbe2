import type * as v from 'valibot';
import { inForm, oneOf } from '../../forms/index.ts';
import type { Trait } from '../trait.ts';

const WORDS = {
  silent: 'has a quiet mode in which nothing is heard',
  softer: 'has a quiet mode in which everything is 20 dB softer',
} as const;

const schema = inForm(oneOf(WORDS), { label: 'It', usual: 'silent' });

/** What is heard while the device is to be quiet. */
export const quiet: Trait<'quiet', v.InferOutput<typeof schema>> = {
  id: 'quiet',
  title: 'Quiet mode',
  schema,
  words: (value) => WORDS[value],
  steps: () => [{ at: ['silence', 'too-quiet'], words: 'See whether it is in its quiet mode.' }],
  moment(value, { isQuiet }) {
    if (!isQuiet) return {};
    return value === 'silent' ? { held: 'The device is in its quiet mode.' } : { gain: 0.1 };
  },
};
