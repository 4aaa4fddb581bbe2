import alawmulaw from 'alawmulaw';
import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { blockEncodings, codecOf, encodingOf, encodings, layoutOf, plainEncodingOf } from './index.ts';

const { alaw, mulaw } = alawmulaw as unknown as typeof import('alawmulaw');

const bytes256 = Uint8Array.from({ length: 256 }, (_, byte) => byte);
const every16 = Int32Array.from({ length: 65_536 }, (_, i) => i - 32_768);

describe.each([
  { id: 'mu-law', reference: mulaw, ends: { 0: -32_124, 128: 32_124, 127: 0, 255: 0, 254: 8, 126: -8 } },
  { id: 'a-law', reference: alaw, ends: { 42: -32_256, 170: 32_256, 85: -8, 213: 8, 84: -24, 212: 24 } },
])('$id', ({ id, reference, ends }) => {
  const encoding = encodingOf(id);
  if (encoding.kind !== 'integer') throw new Error('expected whole numbers');

  test('all 256 decoded values are those of the reference package', () => {
    expect(Array.from(encoding.decode(bytes256), (value) => value * 32_768)).toEqual(
      Array.from(bytes256, (byte) => reference.decodeSample(byte) + 0),
    );
  });

  test('all 65 536 encoded values are those of the reference package', () => {
    expect(encoding.encode(every16)).toEqual(Uint8Array.from(every16, (sample) => reference.encodeSample(sample)));
  });

  // ITU-T G.711, tables 1 and 2: end points and the values beside zero, in 16-bit units (from memory).
  test.each(Object.entries(ends))('code %s decodes to %d', (code, wanted) => {
    expect(encoding.decode(Uint8Array.of(Number(code)))[0] * 32_768 + 0).toBe(wanted);
  });
});

// Common practice, no source: five bits are the levels 0 to 31, and the zero of the sound is 16.
test('a ladder of five resistors takes 0 to 31, one sample a byte', () => {
  const ladder = encodingOf('pcm-u5');
  if (ladder.kind !== 'integer') throw new Error('expected whole numbers');
  expect(ladder.encode(Int32Array.of(-16, -1, 0, 15))).toEqual(Uint8Array.of(0, 15, 16, 31));
  expect([...ladder.decode(Uint8Array.of(0, 16, 24, 31))]).toEqual([-1, 0, 0.5, 0.9375]);
});

const PACKED = [
  'pcm-u5-packed',
  'pcm-u1-packed',
  'pcm-s12-packed-low',
  'pcm-u31-packed-low',
  'pcm-u12le-left',
  'pcm-s40be',
];
test.each([
  ...[...encodings, ...blockEncodings].map(({ id }) => id),
  ...PACKED,
])('%s: in its silence nothing is heard', (id) => {
  const encoding = plainEncodingOf(id);
  const layout = layoutOf(encoding, 1, 8000);
  const samples = codecOf(encoding, layout).decode(encoding.silence(3 * Math.max(40, layout.blockBytes)));
  expect(samples.length).toBeGreaterThan(10);
  // ADPCM and A-law have no zero: the least that they have.
  expect(Math.max(...samples.map(Math.abs))).toBeLessThanOrEqual(
    'companded' in encoding && encoding.companded ? 2 ** -9 : 0,
  );
});

describe('every encoding', () => {
  test.each(
    encodings.map((encoding) => [encoding.id, encoding] as const),
  )('%s: samples there and back', (_, encoding) => {
    if (encoding.kind === 'float') {
      fc.assert(
        fc.property(fc.array(fc.float({ noNaN: true, noDefaultInfinity: true })), (values) => {
          const samples = Float32Array.from(values);
          expect(encoding.decode(encoding.encode(samples))).toEqual(samples);
        }),
      );
      return;
    }
    const { linearBits, companded } = encoding;
    // Float32 carries 24 bits exactly; deeper samples come back rounded to that.
    const most = 2 ** (Math.min(linearBits, 24) - 1);
    const shift = linearBits - Math.min(linearBits, 24);
    fc.assert(
      fc.property(fc.array(fc.integer({ min: -most, max: most - 1 })), (values) => {
        const samples = Int32Array.from(values, (value) => value << shift);
        const bytes = encoding.encode(samples);
        expect(bytes).toHaveLength(samples.length * encoding.bytesPerSample);
        const decoded = encoding.decode(bytes);
        const again = Int32Array.from(decoded, (value) => Math.round(value * 2 ** (linearBits - 1)));
        if (companded) expect(encoding.decode(encoding.encode(again))).toEqual(decoded);
        else expect(again).toEqual(samples);
      }),
    );
  });

  test('zero is zero, where the middle of an unsigned range is', () => {
    for (const id of ['pcm-u8', 'pcm-u16le']) {
      const encoding = encodingOf(id);
      const middle = id === 'pcm-u8' ? Uint8Array.of(0x80) : Uint8Array.of(0x00, 0x80);
      expect([...encoding.decode(middle)]).toEqual([0]);
    }
  });

  test('ids are unique, and an unknown one is refused', () => {
    expect(new Set(encodings.map(({ id }) => id)).size).toBe(encodings.length);
    expect(() => encodingOf('no-such')).toThrow(RangeError);
  });

  test('what is no number reads as silence', () => {
    const bytes = new Uint8Array(Float32Array.of(Number.NaN, Number.POSITIVE_INFINITY, 0.5).buffer);
    expect([...encodingOf('float-32le').decode(bytes)]).toEqual([0, 0, 0.5]);
  });
});
