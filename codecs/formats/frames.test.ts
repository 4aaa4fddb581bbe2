import { inMemory } from '@tambur/core';
import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { id3Size, mpegFrame, surveyFrames } from './mpeg-frames.ts';

/** A header: version and layer bits, index of the bit rate, of the rate, padding, mode. */
const header = (version: number, layer: number, bitRate: number, rate: number, padding = 0, mode = 0) =>
  Uint8Array.of(
    0xff,
    0xe0 | (version << 3) | ((4 - layer) << 1) | 1,
    (bitRate << 4) | (rate << 2) | (padding << 1),
    mode << 6,
  );

describe('headers of MPEG audio (ISO/IEC 11172-3 and 13818-3; sizes: 144 x bit rate / sample rate and the like)', () => {
  test.each([
    [
      'layer 3, 128 kbit/s, 44 100 Hz',
      header(3, 3, 9, 0),
      { bitRate: 128_000, sampleRate: 44_100, bytes: 417, frames: 1152 },
    ],
    ['the same, padded', header(3, 3, 9, 0, 1), { bytes: 418 }],
    ['layer 3, 320 kbit/s, 44 100 Hz', header(3, 3, 14, 0), { bitRate: 320_000, bytes: 1044 }],
    ['layer 3, 128 kbit/s, 48 000 Hz', header(3, 3, 9, 1), { sampleRate: 48_000, bytes: 384 }],
    [
      'layer 3, 64 kbit/s, 24 000 Hz',
      header(2, 3, 8, 1),
      { bitRate: 64_000, sampleRate: 24_000, bytes: 192, frames: 576 },
    ],
    ['layer 3, 8 kbit/s, 8 000 Hz', header(0, 3, 1, 2), { bitRate: 8000, sampleRate: 8000, bytes: 72, frames: 576 }],
    ['layer 2, 192 kbit/s, 48 000 Hz', header(3, 2, 10, 1), { layer: 2, bitRate: 192_000, bytes: 576, frames: 1152 }],
    ['layer 1, 384 kbit/s, 32 000 Hz', header(3, 1, 12, 2), { layer: 1, bitRate: 384_000, bytes: 576, frames: 384 }],
    ['mono', header(3, 3, 9, 0, 0, 3), { channels: 1 }],
    ['joint stereo that uses neither kind', header(3, 3, 9, 0, 0, 1), { channels: 2, isJoint: true }],
  ])('%s', (_, bytes, wanted) => expect(mpegFrame(bytes)).toMatchObject(wanted));

  test.each([
    ['no mark', Uint8Array.of(0xfe, 0xfb, 0x90, 0)],
    ['the reserved version', header(1, 3, 9, 0)],
    ['the reserved rate', header(3, 3, 9, 3)],
    ['a free bit rate', header(3, 3, 0, 0)],
    ['no bit rate at all', header(3, 3, 15, 0)],
    ['nothing', new Uint8Array(0)],
  ])('%s is no header', (_, bytes) => expect(mpegFrame(bytes)).toBeNull());
});

test('the size of an ID3v2 tag has seven bits in each byte (ID3v2.4, section 6.2)', () => {
  const tag = (size: readonly number[], flags = 0) => Uint8Array.of(0x49, 0x44, 0x33, 4, 0, flags, ...size);
  expect(id3Size(tag([0, 0, 2, 1]))).toBe(10 + 257);
  expect(id3Size(tag([0, 0, 2, 1], 0x10))).toBe(20 + 257);
  expect(id3Size(tag([1, 0, 0, 0]))).toBe(10 + 2 ** 21);
  expect(id3Size(Uint8Array.of(1, 2, 3))).toBe(0);
});

test('a row of frames: counted, what stands in front, between and behind is told apart', () => {
  const frame = new Uint8Array(417);
  frame.set(header(3, 3, 9, 0));
  fc.assert(
    fc.property(
      fc.integer({ min: 2, max: 8 }),
      fc.nat(300),
      fc.nat(300),
      fc.nat(200),
      (count, front, between, behind) => {
        const parts = [
          new Uint8Array(front),
          ...Array.from({ length: count }, () => frame),
          new Uint8Array(between),
          ...Array.from({ length: count }, () => frame),
          new Uint8Array(behind),
        ];
        const survey = surveyFrames(inMemory(new Uint8Array(Buffer.concat(parts))));
        expect(survey).toMatchObject({
          start: front,
          count: 2 * count,
          strayBytes: between,
          end: front + 2 * count * 417 + between,
          isJoint: false,
          hasInformation: false,
        });
        expect([...(survey?.bitRates ?? [])]).toEqual([128_000]);
      },
    ),
    { numRuns: 60 },
  );
});
