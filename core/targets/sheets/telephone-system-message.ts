import { EMPTY_SHEET, type Target } from '../target.ts';

/** Common practice, no source: a file of another kind is listed, and nothing is heard. */
export const telephoneSystemMessage: Target = {
  ...EMPTY_SHEET,
  edition: 4,
  id: 'telephone-system-message',
  name: 'Telephone system message',
  about: 'Telephone exchanges and answering systems that play announcements, menus and music on hold.',
  requirements: [{ key: 'peak-advised', kind: 'peak', goal: -1, advised: true }],
  variants: [
    {
      id: 'a-law',
      name: 'A-law',
      replace: {
        player: { 'plays-encodings': { anyOf: ['a-law'], others: 'silent' } },
      },
      without: [],
    },
    {
      id: 'mu-law',
      name: 'mu-law',
      replace: {
        player: { 'plays-encodings': { anyOf: ['mu-law'], others: 'silent' } },
      },
      without: [],
    },
  ],
  naming: { separator: '-' },
  player: {
    keeps: 'files',
    reads: 'header',
    finds: { extensions: ['wav'], others: 'ignores' },
    names: { plain: true, notDigitsOnly: true },
    order: 'name',
    'plays-containers': { anyOf: ['wav'] },
    'extra-chunks': 'skips',
    'plays-encodings': { anyOf: ['pcm-s16le'], others: 'silent' },
    'plays-channels': { anyOf: [1], others: 'silent' },
    'plays-rates': { anyOf: [8000], others: 'silent' },
    speaker: { low: 300, high: 3400 },
  },
  face: { id: 'hold', options: { pause: 0 } },
};
