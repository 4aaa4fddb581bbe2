import { readFileSync } from 'node:fs';
import { automaticSettings, targetOf, wholeOf } from '@tambur/core';
import { describe, expect, test } from 'vitest';
import wavefile from 'wavefile';
import { makeFrom } from '../core/delivery/fixtures/make.ts';
import { deepSound, SIX_TONES } from './fixtures/sounds.ts';
import { library, openSource } from './index.ts';

const { WaveFile } = wavefile as unknown as typeof import('wavefile');

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

test.each([
  ['s24le.mov', 24],
  ['s32le.mkv', 24],
  ['f32le.avi', 24],
  ['f64le.mov', 24],
  ['flac.ogg', 24],
  ['alac.m4a', 24],
  ['six-flac.flac', 16],
])('an archive copy of %s keeps the depth of its source: %d bits', async (name, bits) => {
  const { facts, pcm } = await openSource(file(name));
  const made = await makeFrom(pcm, automaticSettings('x'), targetOf('archive-copy'), { facts, library });
  expect(made.facts).toMatchObject({ encoding: 'flac', bitDepth: bits, channels: facts.channels });
  const again = await openSource(wholeOf(made.file));
  expect(again.pcm.channels.map((samples) => [...samples])).toEqual(pcm.channels.map((samples) => [...samples]));
});

test.each([8, 12, 20])('an archive copy of a WAV of %d bits has as many', async (bits) => {
  const levels = Array.from({ length: 5000 }, (_, i) => Math.round((2 ** (bits - 1) - 1) * Math.sin(i / 30)));
  const { facts, pcm } = await openSource(wavOf(levels, bits));
  const made = await makeFrom(pcm, automaticSettings('x'), targetOf('archive-copy'), { facts, library });
  expect(made.facts).toMatchObject({ encoding: 'flac', bitDepth: bits });
  const again = await openSource(wholeOf(made.file));
  expect(Array.from(again.pcm.channels[0], (value) => value * 2 ** (bits - 1))).toEqual(levels);
});

/** A WAV file as a reference package makes it. */
function wavOf(levels: readonly number[], bits: number): Uint8Array {
  const wave = new WaveFile();
  wave.fromScratch(
    1,
    16_000,
    String(bits),
    bits === 8 ? levels.map((level) => level + 128) : levels.map((level) => level << ((8 - (bits % 8)) % 8)),
  );
  return wave.toBuffer();
}

test('FLAC behind an ID3v2 tag is read, and the tag is said', async () => {
  const plain = file('six-flac.flac');
  const tag = new Uint8Array(10 + 300);
  tag.set([0x49, 0x44, 0x33, 3, 0, 0, 0, 0, 2, 44]);
  const { facts, pcm } = await openSource(Buffer.concat([tag, plain]));
  const wanted = await openSource(plain);
  expect(facts).toMatchObject({ container: 'flac', frames: wanted.facts.frames, warnings: [] });
  expect(facts.extras).toContainEqual({ name: 'ID3v2 tag', bytes: 310 });
  expect([...pcm.channels[5]]).toEqual([...wanted.pcm.channels[5]]);
});
