import type { BlockEncoding, Encoding, PlainEncoding } from './encoding.ts';
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
import { packedPcm } from './pcm-packed.ts';
import { pcmShapeOf } from './pcm-shape.ts';
import { wideEncodings } from './pcm-wide.ts';

export {
  bitRatesAt,
  type CodedFormat,
  type CompressedEncoding,
  compressedEncodings,
  findCompressed,
} from './compressed.ts';
export type {
  BlockEncoding,
  BlockLayout,
  Codec,
  Encoding,
  FloatEncoding,
  IntegerEncoding,
  PlainEncoding,
} from './encoding.ts';
export { bytesOf, codecOf, frameCodec, framesIn, layoutOf } from './encoding.ts';
export { imaAdpcm } from './ima-adpcm.ts';
export { MS_COEFFICIENTS, msAdpcm } from './ms-adpcm.ts';
export { type PcmShape, pcmId, pcmShapeOf } from './pcm-shape.ts';

/** Unsigned samples of few bits, one in each byte: what a ladder of resistors on so many pins takes. */
const lowPcm = (bits: number) => oddPcm({ bits, signed: false, bigEndian: false, left: false });

/** Every encoding of single samples that has a name of its own. A new one: its file, and its line here. */
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

const byId = new Map<string, PlainEncoding>(
  [...encodings, ...wideEncodings, ...blockEncodings].map((entry) => [entry.id, entry]),
);

/** An encoding by its id; PCM of any depth is made when it is first asked for. */
export function findEncoding(id: string): PlainEncoding | undefined {
  const known = byId.get(id);
  if (known) return known;
  const shape = pcmShapeOf(id);
  if (!shape) return undefined;
  const { bits, signed, bigEndian, left, packed } = shape;
  const made = packed ? packedPcm({ bits, signed, first: packed }) : oddPcm({ bits, signed, bigEndian, left });
  byId.set(id, made);
  return made;
}

/** @throws RangeError for an id that is not in the list: a mistake of a developer, not of a user. */
export function plainEncodingOf(id: string): PlainEncoding {
  const encoding = findEncoding(id);
  if (!encoding) throw new RangeError(`no encoding "${id}"`);
  return encoding;
}

/** @throws RangeError for an id of no encoding of single samples: a mistake of a developer, not of a user. */
export function encodingOf(id: string): Encoding {
  const encoding = plainEncodingOf(id);
  if (encoding.kind === 'block') throw new RangeError(`"${id}" does not stand sample by sample`);
  return encoding;
}
