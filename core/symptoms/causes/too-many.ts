import { hiddenCause } from '../without.ts';

export const tooMany = hiddenCause(
  {
    id: 'too-many',
    title: 'There are more sounds than the device shows',
    tellApart: 'The first ones are there, the last ones are not.',
    mend: { words: 'take sounds off the card', where: 'card' },
  },
  'most-sounds',
  ({ situation, player }) =>
    `The card has ${situation.card.length} files; the device shows ${player['most-sounds']} sounds.`,
);
