import { encodingCause } from '../mistakes.ts';

export const wrongLaw = encodingCause(
  'law',
  {
    id: 'wrong-law',
    title: 'Its samples are of the other law',
    tellApart: 'Distorted, but words can be understood (mu-law and A-law, ITU-T G.711).',
  },
  'encode it with the law of the device',
);
