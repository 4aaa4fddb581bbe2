import { createHash } from 'node:crypto';
import { concatenated, viewOf } from '@tambur/core';
import decode from 'audio-decode';
import * as fc from 'fast-check';
import { parseBuffer } from 'music-metadata';
import { describe, expect, test } from 'vitest';
import { encodeWith } from '../fixtures/encode.ts';
import { random, testSound } from '../fixtures/sounds.ts';
import { openSource } from '../index.ts';
import { encodeFlac } from './flac.ts';

/** Our encoder of FLAC, judged by the library's decoder, by Node's MD5 and by a library that reads facts; and our decoder. */

type Levels = readonly Int32Array[];

async function encoded(sampleRate: number, bits: number, levels: Levels, blockFrames = 10_000): Promise<Uint8Array> {
  const frames = levels[0].length;
  const order = { encoding: 'flac', bitRate: 0, stereoMode: 'joint', infoFrame: true, tags: [] } as const;
  const encoder = await encodeFlac({ ...order, sampleRate, channels: levels.length, bits, frames });
  const sound = levels.map((samples) => Float32Array.from(samples, (level) => level / 2 ** (bits - 1)));
  const parts: Uint8Array[] = [];
  for (let at = 0; at < frames; at += blockFrames) {
    parts.push(await encoder.push(sound.map((samples) => samples.subarray(at, at + blockFrames))));
  }
  const file = concatenated([...parts, await encoder.finish()]);
  for (const { at, bytes } of encoder.amendments?.() ?? []) file.set(bytes, at);
  return file;
}

/** MD5 of the samples as RFC 9639, 8.2 lays them out. */
function md5(levels: Levels, bits: number): string {
  const size = Math.ceil(bits / 8);
  const bytes = Buffer.alloc(levels[0].length * levels.length * size);
  let at = 0;
  levels[0].forEach((_, frame) => {
    for (const samples of levels) at = bytes.writeIntLE(samples[frame], at, size);
  });
  return createHash('md5').update(bytes).digest('hex');
}

async function expectExact(file: Uint8Array, sampleRate: number, bits: number, levels: Levels): Promise<void> {
  const { facts, pcm } = await openSource(file);
  const frames = levels[0].length;
  expect(facts).toMatchObject({ sampleRate, frames, channels: levels.length, bitDepth: bits, warnings: [] });
  levels.forEach((samples, channel) => {
    const found = Int32Array.from(pcm.channels[channel], (value) => value * 2 ** (bits - 1));
    expect(Buffer.from(found.buffer).equals(Buffer.from(samples.slice().buffer))).toBe(true);
  });
  expect(Buffer.from(file.subarray(26, 42)).toString('hex')).toBe(md5(levels, bits));
}

const kinds: Readonly<Record<string, (i: number, bits: number, next: () => number) => number>> = {
  tone: (i, bits) => Math.round(0.7 * (2 ** (bits - 1) - 1) * Math.sin(i * 0.05)),
  noise: (_, bits, next) => Math.floor(next() * 2 ** bits) - 2 ** (bits - 1),
  zeros: () => 0,
  constant: (_, bits) => -(2 ** (bits - 2)),
  extremes: (i, bits) => (i % 2 ? 2 ** (bits - 1) - 1 : -(2 ** (bits - 1))),
  'unused low bits': (_, bits, next) => (Math.floor(next() * 2 ** (bits - 4)) << 4) - 2 ** (bits - 1),
};

function levelsOf(kind: string, frames: number, channels: number, bits: number): Levels {
  const next = random(frames + bits);
  return Array.from({ length: channels }, () =>
    Int32Array.from({ length: frames }, (_, i) => kinds[kind](i, bits, next)),
  );
}

describe('every rate, depth and length', () => {
  test.each([
    1000, 8000, 11_025, 12_000, 37_800, 44_100, 44_101, 65_537, 96_000, 255_000, 352_800, 384_000,
  ])('%d Hz', async (rate) => {
    const levels = levelsOf('tone', 5000, 2, 16);
    const file = await encoded(rate, 16, levels);
    await expectExact(file, rate, 16, levels);
    expect((await parseBuffer(file)).format).toMatchObject({ sampleRate: rate, bitsPerSample: 16 });
  });

  test.each(Array.from({ length: 17 }, (_, i) => 8 + i))('%d bits', async (bits) => {
    for (const kind of Object.keys(kinds)) {
      const levels = levelsOf(kind, 4100, 2, bits);
      await expectExact(await encoded(48_000, bits, levels), 48_000, bits, levels);
    }
  });

  test.each([1, 2, 3, 5, 15, 16, 17, 4095, 4096, 4097, 8192, 12_289])('%d frames', async (frames) => {
    for (const kind of Object.keys(kinds)) {
      const levels = levelsOf(kind, frames, 1, 16);
      await expectExact(await encoded(44_100, 16, levels), 44_100, 16, levels);
    }
  });

  test('any samples at all, in any number of channels', async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.integer({ min: 8, max: 24 }),
        fc.integer({ min: 1, max: 8 }),
        fc.array(fc.integer({ min: -(2 ** 23), max: 2 ** 23 - 1 }), { minLength: 1, maxLength: 300 }),
        async (bits, channels, values) => {
          const levels = Array.from({ length: channels }, (_, c) =>
            Int32Array.from(values, (_value, i) => values[(i * (c + 1)) % values.length] >> (24 - bits)),
          );
          await expectExact(await encoded(44_100, bits, levels, 7), 44_100, bits, levels);
        },
      ),
      { numRuns: 60, seed: 5 },
    );
  });
});

test.each([16, 24])("%d bits: the library's decoder gives the same samples", async (bits) => {
  for (const kind of Object.keys(kinds)) {
    const levels = levelsOf(kind, 20_000, 2, bits);
    const decoding = await decode.flac();
    const steps = [await decoding(await encoded(44_100, bits, levels)), await decoding()];
    levels.forEach((samples, channel) => {
      const found = steps.flatMap(({ channelData }) => [...(channelData[channel] ?? [])]);
      // That decoder divides by 2^(bits - 1) - 1.
      const whole = Int32Array.from(found, (value) => Math.round(value * (2 ** (bits - 1) - 1)));
      expect(Buffer.from(whole.buffer).equals(Buffer.from(samples.slice().buffer)), kind).toBe(true);
    });
  }
});

test('blocks handed in do not change the bytes', async () => {
  const levels = levelsOf('noise', 20_000, 2, 16);
  const [one, other] = [await encoded(44_100, 16, levels, 20_000), await encoded(44_100, 16, levels, 333)];
  expect(Buffer.from(one).equals(Buffer.from(other))).toBe(true);
});

test.each(['tone', 'noise', 'bell'])("a file of %s is about as small as the library's", async (kind) => {
  const bits = 16;
  const ring = (i: number, c: number) =>
    [0.31, 0.47, 0.59].reduce((sum, f) => sum + 0.2 * Math.exp(-i / 9000) * Math.sin(i * f * (1 + 0.001 * c)), 0);
  const sound = testSound(44_100, 60_000, 2);
  const levels =
    kind === 'noise'
      ? levelsOf('noise', 60_000, 2, bits)
      : sound.channels.map((samples, c) =>
          Int32Array.from(samples, (value, i) => Math.round(32_767 * (kind === 'bell' ? ring(i, c) : value))),
        );
  const file = await encoded(44_100, bits, levels);
  const channels = levels.map((samples) => Float32Array.from(samples, (level) => level / 32_768));
  const library = await encodeWith('flac', { sampleRate: 44_100, channels });
  expect(file.length).toBeLessThan(1.02 * library.length);
  // The sizes of the smallest and the largest frame are those of frames that are there.
  const [least, most] = [viewOf(file).getUint32(11) & 0xffffff, viewOf(file).getUint32(14) & 0xffffff];
  expect(least).toBeGreaterThan(0);
  expect(most).toBeGreaterThanOrEqual(least);
  expect(most).toBeLessThan(file.length);
});
