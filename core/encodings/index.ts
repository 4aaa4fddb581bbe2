import type { BlockEncoding, Encoding } from './encoding.ts';
import { float32, float32be, float64, float64be } from './float.ts';
import { aLaw, muLaw } from './g711.ts';
import { imaAdpcm } from './ima-adpcm.ts';
import { msAdpcm } from './ms-adpcm.ts';
import {
  pcmS8,
  pcmS16,
  pcmS16be,
  pcmS24,
  pcmS24be,
  pcmS32,
  pcmS32be,
  pcmU8,
  pcmU16,
  pcmU16be,
  pcmU24,
  pcmU24be,
  pcmU32,
  pcmU32be,
} from './pcm.ts';
import { pcmU4, pcmU5, pcmU6, pcmU7 } from './pcm-low.ts';

export type { BlockEncoding, Codec, Encoding, FloatEncoding, IntegerEncoding } from './encoding.ts';
export { frameCodec, wholeUnitFrames } from './encoding.ts';
export { imaAdpcm } from './ima-adpcm.ts';
export { msAdpcm } from './ms-adpcm.ts';

/** Every encoding that Tambur reads and writes sample by sample. A new one: its file, and its line here. */
export const encodings: readonly Encoding[] = [
  pcmU8,
  pcmS8,
  pcmU16,
  pcmU16be,
  pcmS16,
  pcmS16be,
  pcmS24,
  pcmS24be,
  pcmS32,
  pcmS32be,
  pcmU24,
  pcmU24be,
  pcmU32,
  pcmU32be,
  pcmU7,
  pcmU6,
  pcmU5,
  pcmU4,
  float32,
  float32be,
  float64,
  float64be,
  muLaw,
  aLaw,
];

/** Every encoding that Tambur reads block by block. */
export const blockEncodings: readonly BlockEncoding[] = [imaAdpcm, msAdpcm];

const byId = new Map(encodings.map((encoding) => [encoding.id, encoding]));

export const findEncoding = (id: string): Encoding | undefined => byId.get(id);

/** @throws RangeError for an id that is not in the list: a mistake of a developer, not of a user. */
export function encodingOf(id: string): Encoding {
  const encoding = byId.get(id);
  if (!encoding) throw new RangeError(`no encoding "${id}"`);
  return encoding;
}
