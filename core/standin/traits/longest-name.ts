import { inForm, wholeWithin } from '../../forms/index.ts';
import { nameIn } from '../card.ts';
import type { Trait } from '../trait.ts';

/** Longer names are not there for the device; characters with the extension. */
export const longestName: Trait<'longest-name', number> = {
  id: 'longest-name',
  title: 'Longest name',
  schema: inForm(wholeWithin({ least: 1, most: 255 }), {
    label: 'With its extension, at most',
    unit: 'characters',
    usual: 12,
  }),
  words: (most) => `sees names of up to ${most} characters`,
  implies: (most) => [{ kind: 'name', mostWithExtension: most }],
  otherwise: [
    {
      kind: 'name',
      words: 'does not see the file',
      value: ({ key: _, kind: __, mostWithExtension, ...rules }) =>
        Object.keys(rules).length === 0 ? mostWithExtension : undefined,
    },
  ],
  trouble: {
    id: 'name-too-long',
    title: 'Its name is too long',
    tellApart: 'Shorten the name, and it is there.',
    remedy: { words: 'give it a shorter name', where: 'job', station: 'wrap', wish: 'automatic' },
    hidden: (most, { path }) =>
      `${nameIn(path)} has ${nameIn(path).length} characters; the device sees ${most} at most.`,
  },
  find: (most, { shown, refused }) => ({
    shown: shown.filter(({ file }) => nameIn(file.path).length <= most),
    refused,
  }),
};
