import { refusedCause } from '../without.ts';

export const noHeader = refusedCause(
  {
    id: 'no-header',
    title: 'It has no header that says what its sound is',
    tellApart: 'The device plays files that begin with a header.',
    mend: { words: 'write it with a header', where: 'job', station: 'wrap', wish: 'automatic' },
  },
  'reads',
);
