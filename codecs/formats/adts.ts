import { type ByteFile, piecesOf, windowed } from '@tambur/core';
import { AAC_RATES, plainDescription, rawDecoding } from './aac.ts';
import { decodedStream } from './decoding.ts';
import { cutOff, damaged, type LibraryFormat, stated } from './format.ts';

// Gone through here and not by the media library: that one gives packets, but not the bytes between and after them, which
// facts report.

interface AdtsFrame {
  readonly object: number;
  readonly rateIndex: number;
  readonly sampleRate: number;
  readonly channels: number;
  /** Size with its header. */
  readonly bytes: number;
  readonly headerBytes: number;
  /** True if it holds one block of sound, as nearly always. */
  readonly isSingle: boolean;
}

/** The header of an ADTS frame (ISO/IEC 14496-3, 1.A.2.2; from memory), or null. */
function adtsFrame(bytes: Uint8Array): AdtsFrame | null {
  const [b0 = 0, b1 = 0, b2 = 0, b3 = 0, b4 = 0, b5 = 0, b6 = 0] = bytes;
  if (b0 !== 0xff || (b1 & 0xf6) !== 0xf0) return null;
  const rateIndex = (b2 >> 2) & 15;
  const sampleRate = AAC_RATES[rateIndex];
  const size = ((b3 & 3) << 11) | (b4 << 3) | (b5 >> 5);
  const headerBytes = b1 & 1 ? 7 : 9;
  if (!sampleRate || size < headerBytes) return null;
  return {
    object: (b2 >> 6) + 1,
    rateIndex,
    sampleRate,
    channels: ((b2 & 1) << 2) | (b3 >> 6),
    bytes: size,
    headerBytes,
    isSingle: (b6 & 3) === 0,
  };
}

const HEADER = 7;

/** Frames of AAC and whether the last is whole. */
function survey(source: ByteFile) {
  const file = windowed(source);
  const sizes = new Set<number>();
  let at = 0;
  let isSingle = true;
  for (let frame = adtsFrame(file.read(0, HEADER)); frame; frame = adtsFrame(file.read(at, at + HEADER))) {
    sizes.add(frame.bytes);
    isSingle &&= frame.isSingle;
    at += frame.bytes;
    if (at >= file.size) break;
  }
  return { isConstant: sizes.size <= 2, end: at, isSingle };
}

/** What the frames hold, without their headers; bytes that belong to none are passed over. */
function* framesOf(source: ByteFile, first: AdtsFrame): Generator<Uint8Array> {
  const file = windowed(source);
  for (let at = 0; at + HEADER <= file.size; ) {
    const frame = adtsFrame(file.read(at, at + HEADER));
    if (frame?.rateIndex === first.rateIndex && at + frame.bytes <= file.size) {
      yield file.read(at + frame.headerBytes, at + frame.bytes).slice();
      at += frame.bytes;
    } else at++;
  }
}

/** The header that follows the first frame: of the same stream, "missing" if the file ends before it, null if there is another thing. */
function followerOf(head: Uint8Array, first: AdtsFrame): AdtsFrame | 'missing' | null {
  if (first.bytes + HEADER > head.length) return 'missing';
  const next = adtsFrame(head.subarray(first.bytes, first.bytes + HEADER));
  return next?.rateIndex === first.rateIndex && next.object === first.object ? next : null;
}

/** AAC as bare frames, each with its header. Twelve bits mark a frame, so a second one is looked for. */
export const adts: LibraryFormat = {
  title: 'AAC',
  recognises(head) {
    const first = adtsFrame(head);
    return first !== null && followerOf(head, first) !== null;
  },
  isDoubtful(head) {
    const first = adtsFrame(head);
    return first !== null && followerOf(head, first) === 'missing';
  },
  async open(file) {
    const first = adtsFrame(file.read(0, HEADER));
    if (!first) throw damaged('AAC');
    const { isConstant, end, isSingle } = survey(file);
    const { object, rateIndex, sampleRate, channels } = first;
    const facts = stated({
      container: 'adts',
      encoding: 'aac',
      sampleRate,
      channels: channels === 7 ? 8 : channels,
      bytes: file.size,
      bitRateMode: isConstant ? 'constant' : 'variable',
      warnings: end > file.size ? [cutOff('its last frame is incomplete.')] : [],
      extras: end < file.size ? [{ name: 'bytes after the end', bytes: file.size - end }] : [],
    });
    // Frames of several blocks, or with channels that only the blocks describe, are left to the library as they are.
    if (!isSingle || channels === 0) return decodedStream('AAC', 'aac', () => piecesOf(file), facts);
    const open = rawDecoding({ asc: plainDescription(object, rateIndex, channels) });
    return decodedStream('AAC', open, () => framesOf(file, first), facts, { isWhole: true });
  },
};
