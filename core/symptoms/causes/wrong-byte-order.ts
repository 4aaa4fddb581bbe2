import { encodingCause } from '../mistakes.ts';

export const wrongByteOrder = encodingCause(
  'order',
  {
    id: 'wrong-byte-order',
    title: 'Its bytes are in the other order',
    tellApart: 'Loud noise in which the rhythm can be made out; silence stays silent.',
  },
  'write its samples in the order of the device',
);
