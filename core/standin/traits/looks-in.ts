import * as v from 'valibot';
import { inForm } from '../../forms/index.ts';
import { folderIn } from '../card.ts';
import type { Trait } from '../trait.ts';

const schema = v.strictObject({
  /** Empty for the top of the card. */
  path: inForm(v.pipe(v.string(), v.maxLength(200)), { label: 'Folder', usual: 'sounds/en' }),
});

const TOP = 'the top of the card';

/** The only folder in which the device looks: that of its language, say. Without regard to case, as cards are (FAT). */
export const looksIn: Trait<'looks-in', v.InferOutput<typeof schema>> = {
  id: 'looks-in',
  title: 'Where it looks',
  schema,
  words: ({ path }) => `looks in ${path || TOP} and nowhere else`,
  implies: ({ path }) => [{ kind: 'folder', path }],
  otherwise: [{ kind: 'folder', words: 'does not see the file', value: ({ path }) => ({ path }) }],
  trouble: {
    id: 'wrong-folder',
    title: 'It is in a folder where the device does not look',
    tellApart: 'Other sounds in the right folder are there.',
    remedy: { words: 'put it into the folder of the device, and of its language', where: 'card' },
    hidden: ({ path }, file) => `It is in ${folderIn(file.path) || TOP}; the device looks in ${path || TOP}.`,
  },
  find: ({ path }, { shown, refused }) => ({
    shown: shown.filter(({ file }) => folderIn(file.path).toLowerCase() === path.toLowerCase()),
    refused,
  }),
};
