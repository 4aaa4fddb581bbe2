import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import {
  codecOf,
  encodings,
  findEncoding,
  layoutOf,
  type PcmShape,
  type PlainEncoding,
  pcmId,
  pcmShapeOf,
  plainEncodingOf,
} from './index.ts';

function encode(encoding: PlainEncoding, samples: readonly number[]): Uint8Array {
  const integers = Int32Array.from(samples);
  if (encoding.kind === 'integer') return encoding.encode(integers);
  if (encoding.kind !== 'block') throw new Error('floating point');
  const encoder = encoding.encoder(encoding.layout(1, 8000));
  return Uint8Array.from([...encoder.push(integers), ...encoder.finish()]);
}

const decode = (encoding: PlainEncoding, bytes: Uint8Array) =>
  codecOf(encoding, layoutOf(encoding, 1, 8000)).decode(bytes);

/** Every shape that PCM can have. */
const shapes: PcmShape[] = Array.from({ length: 32 }, (_, i) => i + 1).flatMap((bits) =>
  [true, false].flatMap((signed) =>
    [false, true].flatMap((bigEndian) =>
      (
        [
          [false, null],
          [true, null],
          [false, 'high'],
          [false, 'low'],
        ] as const
      ).map(([left, packed]) => ({ bits, signed, bigEndian, left, packed })),
    ),
  ),
);
const ids = [...new Set(shapes.map(pcmId))];

test('every shape has one id, and the id has the shape', () => {
  expect(ids).toHaveLength(new Set(ids.map((id) => JSON.stringify(pcmShapeOf(id)))).size);
  for (const id of ids) expect(pcmId(pcmShapeOf(id)!)).toBe(id);
  for (const { id } of encodings.filter((entry) => entry.id.startsWith('pcm'))) expect(ids).toContain(id);
  for (const id of ['pcm-s0', 'pcm-s33le', 'pcm-u16', 'pcm-s8le', 'pcm-u8-left', 'pcm-s16le-packed', 'pcm', '']) {
    expect(findEncoding(id)).toBeUndefined();
  }
});

/** The bits of a number, the highest first: two's complement, or with the zero in the middle of the range. */
function bitsOf(value: number, { bits, signed }: PcmShape): string {
  const plain = signed ? BigInt.asUintN(bits, BigInt(value)) : BigInt(value) + (1n << BigInt(bits - 1));
  return plain.toString(2).padStart(bits, '0');
}

/** What the bytes have to be, put together from strings of bits. */
function wantedBytes(samples: readonly number[], shape: PcmShape): number[] {
  const bytesOf = (text: string, first: 'high' | 'low') =>
    (text.match(/.{1,8}/g) ?? []).map((part) => {
      const whole = part.padEnd(8, '0');
      return Number.parseInt(first === 'high' ? whole : [...whole].reverse().join(''), 2);
    });
  const { packed, bits, bigEndian, left, signed } = shape;
  if (packed && bits % 8) {
    const inOrder = (text: string) => (packed === 'high' ? text : [...text].reverse().join(''));
    return bytesOf(samples.map((value) => inOrder(bitsOf(value, shape))).join(''), packed);
  }
  return samples.flatMap((value) => {
    const text = bitsOf(value, shape);
    const size = 8 * Math.ceil(bits / 8);
    const fill = signed ? text[0] : '0';
    const bytes = bytesOf(left ? text.padEnd(size, '0') : text.padStart(size, fill), 'high');
    return bigEndian ? bytes : bytes.reverse();
  });
}

describe('PCM of every depth, sign, order, justification and packing', () => {
  test('stands in bytes as strings of bits say, and reads back', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...ids),
        fc.array(fc.double({ min: -1, max: 1, noNaN: true }), { minLength: 8, maxLength: 24 }),
        (id, values) => {
          const shape = pcmShapeOf(id)!;
          const top = 2 ** (shape.bits - 1);
          // Whole blocks of eight samples, so that packed ones end with a byte.
          const samples = values
            .slice(0, values.length - (values.length % 8))
            .map((value) => Math.max(-top, Math.min(top - 1, Math.floor(value * top))));
          const encoding = plainEncodingOf(id);
          const bytes = encode(encoding, samples);
          expect([...bytes]).toEqual(wantedBytes(samples, shape));
          const decoded = decode(encoding, bytes);
          // A 32-bit float holds 24 bits.
          for (const [i, sample] of samples.entries()) {
            expect(decoded[i]).toBeCloseTo(Math.fround(sample / top), 7);
          }
        },
      ),
      { numRuns: 2000 },
    );
  });

  // By hand: 1, 2, 3, 0 as 5 bits unsigned with the zero at 16 are 10001, 10010, 10011, 10000.
  test.each([
    ['pcm-u5', [0b10001, 0b10010, 0b10011]],
    ['pcm-u5-packed', [0b10001100, 0b10100111, 0b00001000, 0b01000010, 0b00010000]],
    ['pcm-u5-packed-low', [0b01010001, 0b01001110, 0b00001000, 0b00100001, 0b10000100]],
  ])('%s', (id, wanted) => {
    const samples = id === 'pcm-u5' ? [1, 2, 3] : [1, 2, 3, 0, 0, 0, 0, 0];
    expect([...encode(plainEncodingOf(id), samples)].map((byte) => byte.toString(2))).toEqual(
      wanted.map((byte) => byte.toString(2)),
    );
  });
});
