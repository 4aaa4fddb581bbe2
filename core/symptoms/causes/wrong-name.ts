import { nameIn, traitWords } from '../../standin/index.ts';
import { hiddenCause } from '../without.ts';

export const wrongName = hiddenCause(
  {
    id: 'wrong-name',
    title: 'It has a name that the device does not see',
    tellApart: 'Other files of the same kind, named otherwise, are there.',
    mend: { words: 'name it as the sheet asks', where: 'job', station: 'wrap', wish: 'automatic' },
  },
  'names',
  ({ file, player }) => `It is called ${nameIn(file.path)}; the device ${traitWords(player, 'names')}.`,
);
