import {
  automaticSettings,
  type Block,
  type FileStore,
  inMemory,
  type Library,
  memoryStore,
  openSoundFile,
  readPlain,
  type Target,
  targetOf,
  wavFile,
  wholeOf,
} from '@tambur/core';
import { describe, expect, test } from 'vitest';
import { makeFrom } from '../core/delivery/fixtures/make.ts';
import { random } from './fixtures/sounds.ts';
import { library } from './index.ts';

/** Faults put in on purpose between the sound and the finished file: each is found before the file is delivered. */

const RATE = 44_100;
const next = random(11);
let low = 0;
/** Two channels that have nothing in common: a rumble, and two tones that move. */
const pcm = {
  sampleRate: RATE,
  channels: [
    Float32Array.from({ length: 2 * RATE }, () => {
      low = 0.97 * low + 0.1 * (next() - 0.5);
      return low;
    }),
    Float32Array.from(
      { length: 2 * RATE },
      (_, i) => 0.3 * Math.sin(i * 0.05 + 4 * Math.sin(i * 0.0004)) + 0.2 * Math.sin(i * 0.11),
    ),
  ],
};
const { facts } = openSoundFile(readPlain(wavFile(pcm, 16)), 0);

const target = (container: string, encoding: string, rate: number): Target => ({
  ...targetOf('portable-player'),
  player: {},
  requirements: [
    { key: 'container', kind: 'container', anyOf: [container] },
    { key: 'encoding', kind: 'encoding', anyOf: [encoding] },
    { key: 'sample-rate', kind: 'sample-rate', anyOf: [rate] },
    { key: 'channels', kind: 'channels', anyOf: [2] },
  ],
});

const kinds = [
  ['mp3', target('mp3', 'mp3', RATE)],
  ['aac', target('mp4', 'aac', RATE)],
  ['vorbis', target('ogg', 'vorbis', RATE)],
  ['opus', target('ogg', 'opus', 48_000)],
  ['flac', target('flac', 'flac', RATE)],
  ['wav', target('wav', 'pcm-s16le', RATE)],
] as const;

const made = (sheet: Target, options: { readonly store?: FileStore; readonly library?: Library } = {}) =>
  makeFrom(pcm, automaticSettings('x'), sheet, { facts, library, ...options });

/** A store whose bytes are other ones when they are read again. */
function faulty(change: (bytes: Uint8Array) => Uint8Array): FileStore {
  const store = memoryStore();
  return { ...store, written: () => inMemory(change(wholeOf(store.written()).slice())) };
}

/** The library with an encoder that gets another sound than was meant for it. */
const deaf = (change: (block: Block, at: number) => Block): Library => ({
  ...library,
  async openEncoder(order) {
    const encoder = await library.openEncoder(order);
    let at = 0;
    return {
      ...encoder,
      push(block) {
        const changed = change(block, at);
        at += block[0].length;
        return encoder.push(changed);
      },
    };
  },
});

/** The same block with some frames changed: `use` gives what stands at a frame of the whole sound. */
const altered = (block: Block, at: number, use: (samples: Float32Array, i: number, frame: number) => number): Block =>
  block.map((samples) => samples.map((_, i) => use(samples, i, at + i)));

const toneOf = (hz: number) =>
  Float32Array.from({ length: RATE / 2 }, (_, i) => 0.5 * Math.sin((2 * Math.PI * hz * i) / RATE));

const FROM = 40_000;

describe.each(kinds)('%s', (kind, sheet) => {
  test('without a fault passes', async () => {
    await expect(made(sheet)).resolves.toMatchObject({ facts: { certainty: 'written' } });
  });

  test.each<[string, (bytes: Uint8Array) => Uint8Array]>([
    ['a flipped bit', (bytes) => bytes.with(Math.floor(bytes.length / 2), bytes[bytes.length >> 1] ^ 1)],
    ['a byte at the end that was not written', (bytes) => bytes.subarray(0, -1)],
    ['a piece that was not written', (bytes) => bytes.fill(0, 5000, 9096)],
    ['a piece that stands twice', (bytes) => bytes.copyWithin(9096, 5000, 9096)],
  ])('%s on the way to the disk is found', async (_, change) => {
    await expect(made(sheet, { store: faulty(change) })).rejects.toThrow(/not what was written|damaged|read back/);
  });

  // Encoders leave out the highest tones, and what hides below them: neither is a fault.
  test.each([
    1000, 5000, 9000, 13_000, 16_000, 18_000, 19_500, 20_500, 21_500,
  ])('a tone of %i Hz passes', async (hz) => {
    const tone = wavFile({ sampleRate: RATE, channels: [0, 1].map(() => toneOf(hz)) }, 16);
    const { facts, pcm } = openSoundFile(readPlain(tone), 0);
    const result = makeFrom(pcm, automaticSettings('x'), sheet, { facts, library });
    await expect(result).resolves.toMatchObject({ facts: { certainty: 'written' } });
  });

  // Core's own encodings have no library to be deaf.
  if (kind === 'wav') return;

  test.each<[string, (block: Block, at: number) => Block]>([
    ['swapped channels', (block) => block.toReversed()],
    [
      'a lost packet',
      (block, at) => altered(block, at, (samples, i, frame) => (frame >= FROM && frame < FROM + 2048 ? 0 : samples[i])),
    ],
    [
      'a doubled block',
      (block, at) => altered(block, at, (samples, i, frame) => (frame >= FROM ? (samples[i - 1152] ?? 0) : samples[i])),
    ],
    [
      'noise instead of sound',
      (block, at) => altered(block, at, (s, i, frame) => (frame >= FROM ? next() - 0.5 : s[i])),
    ],
    ['silence', (block) => block.map((samples) => new Float32Array(samples.length))],
  ])('%s in the encoder is found', async (_, change) => {
    await expect(made(sheet, { library: deaf(change) })).rejects.toThrow(/does not sound as it should|read back/);
  });
});
