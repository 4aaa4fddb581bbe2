import { type ByteFile, piecesOf, windowed } from '@tambur/core';
import { decodedStream } from './decoding.ts';
import { cutOff, damaged, type LibraryFormat, stated } from './format.ts';

/** Hz by index (ISO/IEC 14496-3, table 1.18; from memory). */
export const AAC_RATES = [
  96_000, 88_200, 64_000, 48_000, 44_100, 32_000, 24_000, 22_050, 16_000, 12_000, 11_025, 8_000, 7_350,
];

interface AdtsFrame {
  readonly sampleRate: number;
  readonly channels: number;
  readonly bytes: number;
}

/** The header of an ADTS frame (ISO/IEC 14496-3, 1.A.2.2; from memory), or null. */
function adtsFrame(bytes: Uint8Array): AdtsFrame | null {
  const [b0 = 0, b1 = 0, b2 = 0, b3 = 0, b4 = 0, b5 = 0] = bytes;
  if (b0 !== 0xff || (b1 & 0xf6) !== 0xf0) return null;
  const sampleRate = AAC_RATES[(b2 >> 2) & 15];
  const size = ((b3 & 3) << 11) | (b4 << 3) | (b5 >> 5);
  if (!sampleRate || size < 7) return null;
  return { sampleRate, channels: ((b2 & 1) << 2) | (b3 >> 6), bytes: size };
}

/** Frames of AAC and whether the last is whole. */
function survey(source: ByteFile) {
  const file = windowed(source);
  const sizes = new Set<number>();
  let at = 0;
  for (let frame = adtsFrame(file.read(0, 6)); frame; frame = adtsFrame(file.read(at, at + 6))) {
    sizes.add(frame.bytes);
    at += frame.bytes;
    if (at >= file.size) break;
  }
  return { isConstant: sizes.size <= 2, end: at };
}

/** AAC as bare frames, each with its header. */
export const adts: LibraryFormat = {
  title: 'AAC',
  recognises: (head) => adtsFrame(head) !== null,
  async open(file) {
    const first = adtsFrame(file.read(0, 6));
    if (!first) throw damaged('AAC');
    const { isConstant, end } = survey(file);
    const facts = stated({
      container: 'adts',
      encoding: 'aac',
      sampleRate: first.sampleRate,
      channels: first.channels === 7 ? 8 : first.channels,
      bytes: file.size,
      bitRateMode: isConstant ? 'constant' : 'variable',
      warnings: end > file.size ? [cutOff('its last frame is not whole.')] : [],
      extras: end < file.size ? [{ name: 'bytes after the end', bytes: file.size - end }] : [],
    });
    return decodedStream('AAC', 'aac', () => piecesOf(file), facts);
  },
};
