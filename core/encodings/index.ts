import type { CompressedEncoding } from './compressed.ts';
import type { Encoding, PlainEncoding, SampleEncoding } from './encoding.ts';
import { float32 } from './float.ts';
import { foreignEncodings } from './foreign.ts';
import { blockEncodings, compressedEncodings, encodings } from './list.ts';
import { pcmS16 } from './pcm.ts';
import { oddPcm } from './pcm-odd.ts';
import { packedPcm } from './pcm-packed.ts';
import { pcmShapeOf } from './pcm-shape.ts';
import { wideEncodings } from './pcm-wide.ts';

export { carriesChannels, carriesRate, nearestRate } from './carried.ts';
export { bitRatesAt, type CodedFormat, type CompressedEncoding } from './compressed.ts';
export type { Decoding } from './decoding.ts';
export type {
  BlockEncoding,
  BlockLayout,
  ByteLayout,
  Codec,
  Encoding,
  FloatEncoding,
  IntegerEncoding,
  PlainEncoding,
  SampleEncoding,
} from './encoding.ts';
export { bytesOf, codecOf, frameCodec, framesIn, layoutOf } from './encoding.ts';
export { foreignEncodings } from './foreign.ts';
export { imaAdpcm } from './ima-adpcm.ts';
export { blockEncodings, compressedEncodings, encodings } from './list.ts';
export { MS_COEFFICIENTS, msAdpcm } from './ms-adpcm.ts';
export { type PcmShape, pcmId, pcmShapeOf } from './pcm-shape.ts';

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

/** An encoding that a library writes, by its id. */
export const findCompressed = (id: string): CompressedEncoding | undefined =>
  compressedEncodings.find((entry) => entry.id === id);

/** Any encoding by its id, those that only libraries write or read among them. */
export const anyEncoding = (id: string): Encoding | undefined =>
  findEncoding(id) ?? findCompressed(id) ?? foreignEncodings.find((entry) => entry.id === id);

/** @throws RangeError for an id that is not in the list: a mistake of a developer, not of a user. */
export function writableEncoding(id: string): Encoding {
  const encoding = anyEncoding(id);
  if (!encoding || encoding.kind === 'foreign') throw new RangeError(`nobody writes the encoding "${id}"`);
  return encoding;
}

/** @throws RangeError for an id that is not in the list: a mistake of a developer, not of a user. */
export function plainEncodingOf(id: string): PlainEncoding {
  const encoding = findEncoding(id);
  if (!encoding) throw new RangeError(`no encoding "${id}"`);
  return encoding;
}

/** @throws RangeError for an id of no encoding of single samples: a mistake of a developer, not of a user. */
export function encodingOf(id: string): SampleEncoding {
  const encoding = plainEncodingOf(id);
  if (encoding.kind === 'block') throw new RangeError(`"${id}" is not stored sample by sample`);
  return encoding;
}

/** Encodings used if neither the sheet nor the user chooses, and for sound that is not rounded. */
export const USUAL_ENCODING = pcmS16.id;

/** Encodings that small devices play: what nearly all do, what the smallest do, and others (common practice, no source). */
export const SMALL_ENCODINGS = [USUAL_ENCODING, 'pcm-u8', 'pcm-s8', 'pcm-s16be', 'mu-law', 'a-law'] as const;
export const UNROUNDED_ENCODING = float32.id;
