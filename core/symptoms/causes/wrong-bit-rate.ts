import { refusedCause } from '../without.ts';

export const wrongBitRate = refusedCause(
  {
    id: 'wrong-bit-rate',
    title: 'It has a bit rate that the device does not play',
    tellApart: 'Others of the right bit rate play.',
    mend: { words: 'encode it at the bit rate of the sheet', where: 'job', station: 'wrap', wish: 'automatic' },
  },
  'plays-bit-rates',
);
