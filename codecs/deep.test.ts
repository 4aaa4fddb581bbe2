import { readFileSync } from 'node:fs';
import { describe, expect, test } from 'vitest';
import { deepSound, SIX_TONES } from './fixtures/sounds.ts';
import { openSource } from './index.ts';

/** Files that need more than 16 bits or more than two channels, made by another program (fixtures/make-files.sh). */

const file = (name: string) => new Uint8Array(readFileSync(new URL(`./fixtures/deep/${name}`, import.meta.url)));

describe('every bit of a deep source is kept, and its facts say so', () => {
  test.each([
    ['s24le.mov', 'pcm-s24le', 24],
    ['s24be.mov', 'pcm-s24be', 24],
    ['s32le.mov', 'pcm-s32le', 32],
    ['s32be.mov', 'pcm-s32be', 32],
    ['f32le.mov', 'float-32le', 32],
    ['f32be.mov', 'float-32be', 32],
    ['f64le.mov', 'float-64le', 64],
    ['s24be.mkv', 'pcm-s24be', 24],
    ['s32le.mkv', 'pcm-s32le', 32],
    ['f32le.mkv', 'float-32le', 32],
    ['f64le.mkv', 'float-64le', 64],
    ['s24le.avi', 'pcm-s24le', 24],
    ['s32le.avi', 'pcm-s32le', 32],
    ['f32le.avi', 'float-32le', 32],
    ['alac.m4a', 'alac', 24],
    ['flac.ogg', 'flac', 24],
    ['flac.mkv', 'flac', 24],
    ['flac.mp4', 'flac', 24],
  ])('%s', async (name, encoding, bitDepth) => {
    const { facts, pcm } = await openSource(file(name));
    expect(facts).toMatchObject({ encoding, bitDepth, sampleRate: 48_000, channels: 2, warnings: [] });
    expect(pcm.channels.map((samples) => [...samples])).toEqual(deepSound.channels.map((samples) => [...samples]));
  });
});

/** Hz of the strongest of the tones. */
function toneIn(samples: Float32Array, sampleRate: number): number | undefined {
  const power = (hz: number) => {
    let [re, im] = [0, 0];
    for (let i = 2000; i < samples.length - 1000; i++) {
      re += samples[i] * Math.cos((2 * Math.PI * hz * i) / sampleRate);
      im += samples[i] * Math.sin((2 * Math.PI * hz * i) / sampleRate);
    }
    return re * re + im * im;
  };
  return SIX_TONES.toSorted((a, b) => power(b) - power(a))[0];
}

test.each([
  'six-alac.m4a',
  'six-alac.mkv',
  'six-ac3.mp4',
  'six-ac3.mkv',
  'six-aac.m4a',
  'six-opus.mkv',
  'six-opus.opus',
  'six-vorbis.mkv',
  'six-vorbis.ogg',
  'six-flac.flac',
  'six-pcm.avi',
])('%s: six channels come as L, R, C, LFE, Ls, Rs', async (name) => {
  const { facts, pcm } = await openSource(file(name));
  expect(facts.channels).toBe(6);
  expect(pcm.channels.map((samples) => toneIn(samples, facts.sampleRate))).toEqual(SIX_TONES);
});

test.each(
  [8000, 16_000, 22_050, 24_000].flatMap((rate) => ['aac', 'm4a', 'mkv'].map((kind) => [rate, kind] as const)),
)('AAC-LC at %d Hz in %s is not taken for one of double the rate', async (rate, kind) => {
  const { facts, pcm } = await openSource(file(`low-${rate}.${kind}`));
  expect(facts).toMatchObject({ encoding: 'aac', sampleRate: rate, channels: 1 });
  // Half a second, and what the encoder puts around it.
  expect(Math.abs(facts.frames - rate / 2)).toBeLessThanOrEqual(2048);
  let crossings = 0;
  const middle = pcm.channels[0].subarray(2048, 2048 + rate / 4);
  for (let i = 1; i < middle.length; i++) if (middle[i - 1] < 0 && middle[i] >= 0) crossings++;
  expect(Math.abs(crossings * 4 - 440)).toBeLessThanOrEqual(4);
});
