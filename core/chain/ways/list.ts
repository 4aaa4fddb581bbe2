import { shorterCut } from './cut.ts';
import { fewerBits } from './fewer-bits.ts';
import { jointStereo } from './joint-stereo.ts';
import { largerContainer } from './larger-container.ts';
import { lowerRate } from './lower-rate.ts';
import { oneChannel } from './one-channel.ts';
import { silence } from './silence.ts';
import type { KindOfWay } from './way.ts';

/** Every kind of way out, what loses least first: for single clips and for sets. A new one: its file, and its line here. */
export const kindsOfWays: readonly KindOfWay[] = [
  silence,
  fewerBits,
  jointStereo,
  oneChannel,
  lowerRate,
  largerContainer,
  shorterCut,
];
