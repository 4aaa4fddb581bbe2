import { expect, test } from 'vitest';
import { bitsOf, bytesFor, isSame, isSampleBySample } from './readings.ts';

test.each([
  ['pcm-u8', 1, 8, true],
  ['pcm-s16le', 2, 16, true],
  ['pcm-s24be', 3, 24, true],
  ['float-64le', 8, 64, true],
  ['mu-law', 1, 8, true],
  // Two samples of four bits in a byte: a byte for each is enough.
  ['oki-adpcm', 1, 4, false],
  ['pcm-u5-packed', 1, 5, false],
])('a sample of %s takes %i bytes, of %i bits', (encoding, bytes, bits, isAlone) => {
  expect(bytesFor({ encoding, sampleRate: 8000, channels: 1 }, 1)).toBe(8000 * bytes);
  expect(bitsOf(encoding)).toBe(bits);
  expect(isSampleBySample(encoding)).toBe(isAlone);
});

test('all channels, whole frames and what is skipped are counted', () => {
  const reading = { encoding: 'pcm-s16le', sampleRate: 11_025, channels: 2, skip: 44 };
  expect(bytesFor(reading, 20)).toBe(20 * 11_025 * 4 + 44);
  expect(bytesFor({ ...reading, sampleRate: 3, skip: undefined }, 0.5)).toBe(8);
});

test('ranked readings differ by encoding and channels alone', () => {
  const reading = { encoding: 'pcm-u8', sampleRate: 8000, channels: 1 };
  expect(isSame(reading, { ...reading, sampleRate: 44_100, bits: 7 })).toBe(true);
  expect(isSame(reading, { ...reading, channels: 2 })).toBe(false);
  expect(isSame(reading, { ...reading, encoding: 'pcm-s8' })).toBe(false);
});
