import * as v from 'valibot';
import { arrayForms, containers, wholeIn } from '../../containers/index.ts';
import { containerId, containerTitle, headOf, recognise } from '../../facts/index.ts';
import { inForm } from '../../forms/index.ts';
import type { Trait } from '../trait.ts';
import { WRONG_CONTAINER } from './plays-containers.ts';

const schema = v.strictObject({
  anyOf: inForm(v.pipe(v.array(containerId), v.minLength(1)), {
    label: 'One of',
    options: () =>
      containers.filter(({ textOptions }) => textOptions).map(({ id, title }) => ({ value: id, label: title })),
    usual: arrayForms.slice(0, 1).map(({ id }) => id),
  }),
});

const titles = (ids: readonly string[]) => ids.map(containerTitle).join(', ');

/** A device whose sounds are compiled into its program: what is no source code does not compile. */
export const compiles: Trait<'compiles', v.InferOutput<typeof schema>> = {
  id: 'compiles',
  title: 'Source code that is compiled into it',
  schema,
  words: ({ anyOf }) => `has its sounds compiled in as ${titles(anyOf)}`,
  implies: ({ anyOf }, { reads }) => [{ kind: reads === 'bare' ? 'container' : 'array', anyOf }],
  trouble: WRONG_CONTAINER,
  take({ anyOf }, taken, { file }) {
    const form = wholeIn(file)?.array ?? recognise(headOf(file))?.id;
    return form !== undefined && anyOf.includes(form)
      ? taken
      : { word: 'error', reason: `It is no ${titles(anyOf)}, and does not compile.` };
  },
};
