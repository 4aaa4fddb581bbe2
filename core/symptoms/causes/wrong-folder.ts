import { folderIn } from '../../standin/index.ts';
import { hiddenCause } from '../without.ts';

export const wrongFolder = hiddenCause(
  {
    id: 'wrong-folder',
    title: 'It is in a folder where the device does not look',
    tellApart: 'Other sounds in the right folder are there.',
    mend: { words: 'put it into the folder of the device, and of its language', where: 'card' },
  },
  'looks-in',
  ({ file, player }) =>
    `It is in ${folderIn(file.path) || 'the top of the card'}; the device looks in ${player['looks-in']?.path}.`,
);
