import { expect, test } from 'vitest';
import { openPlain } from '../facts/fixtures/open-plain.ts';

const HALF = [0.5, -0.5];

test.each([
  ['pcm-u8', [192, 64]],
  ['pcm-s8', [64, 192]],
  ['pcm-u16le', [0, 192, 0, 64]],
  ['pcm-u16be', [192, 0, 64, 0]],
  ['pcm-s16le', [0, 64, 0, 192]],
  ['pcm-s16be', [64, 0, 192, 0]],
  ['pcm-s24le', [0, 0, 64, 0, 0, 192]],
  ['pcm-s24be', [64, 0, 0, 192, 0, 0]],
  ['pcm-u24le', [0, 0, 192, 0, 0, 64]],
  ['pcm-u24be', [192, 0, 0, 64, 0, 0]],
  ['pcm-s32be', [64, 0, 0, 0, 192, 0, 0, 0]],
  ['pcm-u32le', [0, 0, 0, 192, 0, 0, 0, 64]],
  ['pcm-u32be', [192, 0, 0, 0, 64, 0, 0, 0]],
  ['float-32be', [0x3f, 0, 0, 0, 0xbf, 0, 0, 0]],
])('%s: one half up, one half down, spelled out by hand', (encoding, bytes) => {
  const { facts, pcm } = openPlain(Uint8Array.from(bytes), { encoding, sampleRate: 8000, channels: 1 });
  expect([...pcm.channels[0]]).toEqual(HALF);
  expect(facts).toMatchObject({ container: 'headerless', encoding, frames: 2, certainty: 'assumed' });
});

test.each([
  ['5 bits unsigned, as a ladder of resistors wants them', 'pcm-u8', 5, [24, 8], 5],
  ['12 bits signed in 16', 'pcm-s16le', 12, [0, 4, 0, 252], 12],
  ['12 bits unsigned in 16', 'pcm-u16le', 12, [0, 12, 0, 4], 12],
])('%s at the low end are taken up to the full range', (_, encoding, bits, bytes, depth) => {
  const { facts, pcm } = openPlain(Uint8Array.from(bytes), { encoding, sampleRate: 8000, channels: 1, bits });
  expect([...pcm.channels[0]]).toEqual(HALF);
  expect(facts.bitDepth).toBe(depth);
});

test('bytes in front are skipped, an incomplete last frame is left over, both are said', () => {
  const reading = { encoding: 'pcm-s16le', sampleRate: 8000, channels: 2, skip: 3 };
  const { facts } = openPlain(Uint8Array.from([9, 9, 9, 0, 64, 0, 192, 0, 64, 7]), reading);
  expect(facts).toMatchObject({
    frames: 1,
    extras: [
      { name: 'skipped at the start', bytes: 3 },
      { name: 'incomplete last frame', bytes: 3 },
    ],
  });
});

test.each([
  ['more bits than there are', { bits: 9 }, 'does not have 9 bits'],
  ['all of it skipped', { skip: 4 }, 'too short to hold one frame'],
  ['an encoding that is none', { encoding: 'x' }, 'say how to read it'],
])('%s: one sentence', (_, change, words) => {
  const reading = { encoding: 'pcm-u8', sampleRate: 8000, channels: 1, ...change };
  expect(() => openPlain(Uint8Array.of(1, 2, 3, 4), reading)).toThrow(words);
});
