import type * as v from 'valibot';
import { inForm, oneOf } from '../../forms/index.ts';
import type { Trait } from '../trait.ts';

const WORDS = {
  calls: 'holds its sounds back while there is a call or traffic',
  sounds: 'plays its sounds over calls and traffic',
} as const;

const schema = inForm(oneOf(WORDS), { label: 'It', usual: 'calls' });

/** What goes first: a call, or a sound. */
export const priority: Trait<'priority', v.InferOutput<typeof schema>> = {
  id: 'priority',
  title: 'Calls and traffic',
  schema,
  words: (value) => WORDS[value],
  steps: (value) =>
    value === 'calls' ? [{ at: ['silence', 'cut-off'], words: 'Try it while there is no call and nobody talks.' }] : [],
  moment: (value, { isBusy }) => (value === 'calls' && isBusy ? { held: 'A call or traffic goes first.' } : {}),
};
