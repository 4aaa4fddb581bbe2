import { refusedCause } from '../without.ts';

export const wrongContainer = refusedCause(
  {
    id: 'wrong-container',
    title: 'It is another kind of file',
    tellApart: 'Look at what the file is: its extension does not say.',
    mend: { words: 'write it as the sheet asks', where: 'job', station: 'wrap', wish: 'automatic' },
  },
  'plays-containers',
  'compiles',
);
