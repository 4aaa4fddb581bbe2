import * as v from 'valibot';
import { choicesOf } from '../../forms/index.ts';
import { choiceFields, type Trait } from '../trait.ts';

const WORDS = {
  calls: 'holds its sounds back while there is a call or traffic',
  sounds: 'plays its sounds over calls and traffic',
} as const;

const schema = v.picklist(['calls', 'sounds']);

/** What goes first: a call, or a sound. */
export const priority: Trait<'priority', v.InferOutput<typeof schema>> = {
  id: 'priority',
  title: 'Calls and traffic',
  schema,
  usual: 'calls',
  fields: choiceFields(choicesOf(WORDS)),
  words: (value) => WORDS[value],
  step: (value) =>
    value === 'calls'
      ? { at: ['silence', 'cut-off'], words: 'Try it while there is no call and nobody talks.' }
      : undefined,
  moment: (value, { isBusy }) => (value === 'calls' && isBusy ? { held: 'A call or traffic goes first.' } : {}),
};
