import * as v from 'valibot';
import { inForm } from '../../forms/index.ts';
import { folderIn } from '../card.ts';
import type { Trait } from '../trait.ts';

const schema = v.strictObject({
  path: inForm(v.pipe(v.string(), v.nonEmpty(), v.maxLength(200)), { label: 'Folder', usual: 'sounds/en' }),
});

/** The only folder in which the device looks: that of its language, say. Without regard to case, as cards are (FAT). */
export const looksIn: Trait<'looks-in', v.InferOutput<typeof schema>> = {
  id: 'looks-in',
  title: 'Where it looks',
  schema,
  words: ({ path }) => `looks in ${path} and nowhere else`,
  implies: ({ path }) => [{ kind: 'folder', path }],
  otherwise: [{ kind: 'folder', words: 'does not see the file', value: ({ path }) => ({ path }) }],
  find: ({ path }, { shown, refused }) => ({
    shown: shown.filter(({ file }) => folderIn(file.path).toLowerCase() === path.toLowerCase()),
    refused,
  }),
};
