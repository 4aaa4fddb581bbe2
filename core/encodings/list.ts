import { aac, type CompressedEncoding, flac, mp3, opus, vorbis } from './compressed.ts';
import type { BlockEncoding, SampleEncoding } from './encoding.ts';
import { float32, float32be, float64, float64be } from './float.ts';
import { aLaw, muLaw } from './g711.ts';
import { imaAdpcm, imaAdpcmHigh, imaAdpcmLow } from './ima-adpcm.ts';
import { msAdpcm } from './ms-adpcm.ts';
import { okiAdpcm, okiAdpcmLow } from './oki-adpcm.ts';
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
import { oddPcm } from './pcm-odd.ts';

/** Unsigned samples of few bits, one in each byte: what a ladder of resistors on so many pins takes. */
const lowPcm = (bits: number) => oddPcm({ bits, signed: false, bigEndian: false, left: false });

/** Every encoding of single samples that has a name of its own. A new one: its file, and its line here. */
export const encodings: readonly SampleEncoding[] = [
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
  lowPcm(7),
  lowPcm(6),
  lowPcm(5),
  lowPcm(4),
  float32,
  float32be,
  float64,
  float64be,
  muLaw,
  aLaw,
];

/** Every encoding of blocks and streams that has a name of its own. */
export const blockEncodings: readonly BlockEncoding[] = [
  imaAdpcm,
  msAdpcm,
  imaAdpcmLow,
  imaAdpcmHigh,
  okiAdpcm,
  okiAdpcmLow,
];

/** Every encoding that a library writes. A new one: its entry in `compressed.ts` and its line here, and its file in `codecs/encoders`. */
export const compressedEncodings: readonly CompressedEncoding[] = [mp3, aac, flac, vorbis, opus];
