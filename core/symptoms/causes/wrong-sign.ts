import { encodingCause } from '../mistakes.ts';

export const wrongSign = encodingCause(
  'sign',
  {
    id: 'wrong-sign',
    title: 'Its samples are signed where the device takes them for unsigned, or the other way round',
    tellApart: 'Harsh, with the right rhythm; soft places are the loudest.',
  },
  'write its samples with the sign of the device',
);
