import * as v from 'valibot';
import { headerless, outContainers, USUAL_CONTAINER } from '../../containers/index.ts';
import { containerId, containerTitle } from '../../facts/index.ts';
import { inForm } from '../../forms/index.ts';
import { refuses, statedOf, type Trait } from '../trait.ts';

const schema = v.strictObject({
  anyOf: inForm(v.pipe(v.array(containerId), v.minLength(1)), {
    label: 'One of',
    options: () => outContainers().map(({ id, title }) => ({ value: id, label: title })),
    usual: [USUAL_CONTAINER],
  }),
});

const titles = (ids: readonly string[]) => ids.map(containerTitle).join(', ');

/** What is wrong with a file of another kind than the device takes. */
export const WRONG_CONTAINER = {
  id: 'wrong-container',
  title: 'It is another kind of file',
  tellApart: 'Look at what the file is: its extension does not say.',
  remedy: { words: 'write it as the sheet asks', where: 'job', station: 'wrap', wish: 'automatic' },
} as const;

/** The kinds of file that it plays; it refuses others. Bare samples are of no kind. */
export const playsContainers: Trait<'plays-containers', v.InferOutput<typeof schema>> = {
  id: 'plays-containers',
  title: 'Kinds of file that it plays',
  schema,
  words: ({ anyOf }) => `plays ${titles(anyOf)} and refuses other kinds of file`,
  implies: ({ anyOf }, { reads }) =>
    reads === 'bare' ? [] : [{ kind: 'container', anyOf: reads === 'either' ? [...anyOf, headerless.id] : anyOf }],
  otherwise: [{ kind: 'container', words: 'refuses the file', value: ({ anyOf }) => ({ anyOf }) }],
  trouble: WRONG_CONTAINER,
  take({ anyOf }, taken) {
    const container = statedOf(taken)?.container;
    return container === undefined || container === headerless.id || anyOf.includes(container)
      ? taken
      : refuses(`It is ${containerTitle(container)}; the device plays ${titles(anyOf)}.`);
  },
};
