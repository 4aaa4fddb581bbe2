import { refusedCause } from '../without.ts';

export const chunkRefused = refusedCause(
  {
    id: 'chunk-refused',
    title: 'There are chunks or tags beside its sound',
    tellApart: 'The same sound without tags plays.',
    mend: { words: 'write it again without tags and chunks', where: 'job', station: 'wrap', wish: 'automatic' },
  },
  'extra-chunks',
);
