import { nibbleStream } from './nibble-stream.ts';
import type { StepRule } from './step-coder.ts';

/**
 * OKI ADPCM, also called Dialogic ADPCM or VOX: 4 bits for each 12-bit sample, with the rule of IMA ADPCM and a shorter
 * table ("Dialogic ADPCM Algorithm", Dialogic Corporation 1988, table 2; from memory). Step k is 16 x 1.1^k, rounded down.
 */
const OKI_STEPS = Int32Array.from(
  // biome-ignore format: rows of ten are easier to compare with the printed table
  [
    16, 17, 19, 21, 23, 25, 28, 31, 34, 37,
    41, 45, 50, 55, 60, 66, 73, 80, 88, 97,
    107, 118, 130, 143, 157, 173, 190, 209, 230, 253,
    279, 307, 337, 371, 408, 449, 494, 544, 598, 658,
    724, 796, 876, 963, 1060, 1166, 1282, 1411, 1552,
  ],
);

const RULE: StepRule = { name: 'oki', steps: OKI_STEPS, least: -2048, most: 2047 };

export const okiAdpcm = nibbleStream('oki-adpcm', 'OKI ADPCM, high nibble first', RULE, 12, 'high');
export const okiAdpcmLow = nibbleStream('oki-adpcm-low', 'OKI ADPCM, low nibble first', RULE, 12, 'low');
