import { nameIn } from '../../standin/index.ts';
import { hiddenCause } from '../without.ts';

export const nameTooLong = hiddenCause(
  {
    id: 'name-too-long',
    title: 'Its name is too long',
    tellApart: 'Shorten the name, and it is there.',
    mend: { words: 'give it a shorter name', where: 'job', station: 'wrap', wish: 'automatic' },
  },
  'longest-name',
  ({ file, player }) =>
    `${nameIn(file.path)} has ${nameIn(file.path).length} characters; the device sees ${player['longest-name']} at most.`,
);
