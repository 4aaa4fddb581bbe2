import { inForm, wholeWithin } from '../../forms/index.ts';
import type { Trait } from '../trait.ts';

/** So many sounds it has room to show; those after them are not there for it. */
export const mostSounds: Trait<'most-sounds', number> = {
  id: 'most-sounds',
  title: 'Most sounds',
  schema: inForm(wholeWithin({ least: 1, most: 100_000 }), { label: 'It shows at most', unit: 'sounds', usual: 8 }),
  words: (most) => `shows ${most} sounds at most`,
  implies: (most) => [{ kind: 'file-count', most }],
  otherwise: [
    {
      kind: 'file-count',
      words: 'does not see what is too many',
      value: ({ least, most }) => (least === undefined ? most : undefined),
    },
  ],
  trouble: {
    id: 'too-many',
    title: 'There are more sounds than the device shows',
    tellApart: 'The first ones are there, the last ones are not.',
    remedy: { words: 'take sounds off the card', where: 'card' },
    hidden: (most, _, card) => `The card has ${card.length} files; the device shows ${most} sounds.`,
  },
  find: (most, { shown, refused }) => ({ shown: shown.slice(0, most), refused }),
};
