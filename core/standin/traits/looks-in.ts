import * as v from 'valibot';
import { folderIn } from '../card.ts';
import type { Trait } from '../trait.ts';

const schema = v.strictObject({ path: v.pipe(v.string(), v.nonEmpty(), v.maxLength(200)) });

/** The only folder in which the device looks: that of its language, say. Without regard to case, as cards are (FAT). */
export const looksIn: Trait<'looks-in', v.InferOutput<typeof schema>> = {
  id: 'looks-in',
  title: 'Where it looks',
  schema,
  usual: { path: 'sounds/en' },
  fields: [{ key: 'path', label: 'Folder', type: 'text' }],
  words: ({ path }) => `looks in ${path} and nowhere else`,
  implies: ({ path }) => [{ kind: 'folder', path }],
  find: ({ path }, { shown, refused }) => ({
    shown: shown.filter(({ file }) => folderIn(file.path).toLowerCase() === path.toLowerCase()),
    refused,
  }),
};
