import { readFileSync } from 'node:fs';
import { concatenated, type FlacFrame, inMemory, partOf, splitFlacFrames } from '@tambur/core';
import { describe, expect, test } from 'vitest';
import { encodeWith } from './fixtures/encode.ts';
import { random } from './fixtures/sounds.ts';
import { type Decoder, decoded } from './formats/decoding.ts';
import { openSource } from './index.ts';

/** Decoders are fed in pieces. Wherever these are cut, the same sound comes out. */

const file = (name: string) => new Uint8Array(readFileSync(new URL(`./fixtures/${name}`, import.meta.url)));

/** All samples of the first channel: blocks may end anywhere. */
async function firstChannel(decoder: Decoder, pieces: Iterable<Uint8Array>): Promise<Buffer> {
  const parts: Buffer[] = [];
  for await (const { channelData } of decoded(decoder, pieces, true)) {
    parts.push(Buffer.from((channelData[0] ?? new Float32Array(0)).slice().buffer));
  }
  return Buffer.concat(parts);
}

function* cutAt(bytes: Uint8Array, next: () => number): Generator<Uint8Array> {
  for (let at = 0; at < bytes.length; ) {
    const end = at + next();
    yield bytes.subarray(at, end);
    at = end;
  }
}

describe.each<[Decoder, string]>([
  ['mp3', 'short/short.mp3'],
  ['mp3', 'tone-440-hz-22050-frames.mp3'],
  ['aac', 'short/short.aac'],
  ['aac', 'files/tone.aac'],
  ['oga', 'short/short.ogg'],
  ['oga', 'files/tone.ogg'],
  ['opus', 'short/short.opus'],
  ['opus', 'files/tone.opus'],
  ['m4a', 'short/short-aac.m4a'],
  ['m4a', 'short/short-alac.m4a'],
  ['mkv', 'short/short.mkv'],
  ['mkv', 'short/short.webm'],
  ['avi', 'short/short.avi'],
  ['amr', 'short/short.amr'],
])('%s: %s', (decoder, name) => {
  const bytes = file(name);

  test('byte by byte, so cut everywhere at once', async () => {
    const whole = await firstChannel(decoder, [bytes]);
    expect(whole.length).toBeGreaterThan(0);
    expect(
      (
        await firstChannel(
          decoder,
          cutAt(bytes, () => 1),
        )
      ).equals(whole),
    ).toBe(true);
  });

  test('in pieces of random sizes', async () => {
    const whole = await firstChannel(decoder, [bytes]);
    for (let seed = 1; seed <= 20; seed++) {
      const next = random(seed);
      const pieces = [...cutAt(bytes, () => 1 + Math.floor(next() * 700))];
      const result = await firstChannel(decoder, pieces);
      expect(result.equals(whole), `seed ${seed}`).toBe(true);
    }
  });
});

test('WMA: our pieces, of whole packets, give what the whole file gives', async () => {
  const bytes = file('files/tone.wma');
  const { pcm } = await openSource(bytes);
  const whole = await firstChannel('wma', [bytes]);
  expect(Buffer.from(pcm.channels[0]?.slice().buffer ?? []).equals(whole)).toBe(true);
});

/** Of the file, so much is read at a time. */
const WINDOW = 1 << 19;

describe('frames of FLAC', async () => {
  const next = random(7);
  const noise = Array.from({ length: 2 }, () => Float32Array.from({ length: 150_000 }, () => next() - 0.5));
  const bytes = await encodeWith('flac', { sampleRate: 44_100, channels: noise });
  // Marker, description, and the comments that the encoder adds.
  const soundAt = (() => {
    let at = 4;
    for (let isLast = false; !isLast; ) {
      isLast = (bytes[at] ?? 0) >= 128;
      at += 4 + (((bytes[at + 1] ?? 0) << 16) | ((bytes[at + 2] ?? 0) << 8) | (bytes[at + 3] ?? 0));
    }
    return at;
  })();
  const sound = bytes.subarray(soundAt);
  const lengthsOf = (frames: Iterable<FlacFrame>) => [...frames].map((frame) => frame.bytes?.length ?? 0);
  const known = lengthsOf(splitFlacFrames(inMemory(sound)));

  test('are all found, and together they are all bytes', () => {
    expect(known).toHaveLength(Math.ceil(150_000 / 4096));
    expect(known.reduce((sum, length) => sum + length, 0)).toBe(sound.length);
  });

  test('are found whatever stands in front, so wherever the window over the file ends', () => {
    const starts = known.map((_, i) => known.slice(0, i).reduce((sum, length) => sum + length, 0));
    for (const start of starts) {
      for (let before = 0; before <= 18; before++) {
        // So much in front that this frame begins `before` bytes before the end of a window.
        const front = (WINDOW - before - (start % WINDOW) + WINDOW) % WINDOW;
        const moved = concatenated([new Uint8Array(front), sound]);
        const lengths = lengthsOf(splitFlacFrames(partOf(inMemory(moved), 0, moved.length)));
        expect(lengths).toEqual(known);
      }
    }
  });

  test('5 s of random sound keep their last block', async () => {
    const { facts } = await openSource(bytes);
    expect(facts.frames).toBe(150_000);
    expect(facts.warnings).toEqual([]);
  });

  test('a damaged one becomes silence of its length, and is said', async () => {
    const hurt = bytes.slice();
    hurt[soundAt + (known[0] ?? 0) + (known[1] ?? 0) + 500] ^= 0x10;
    const { facts, pcm } = await openSource(hurt);
    const { pcm: whole } = await openSource(bytes);
    expect(facts.frames).toBe(150_000);
    expect(facts.warnings.join()).toMatch(/4096 frames of silence/);
    pcm.channels.forEach((samples, channel) => {
      const wanted = whole.channels[channel]?.slice() ?? new Float32Array(0);
      wanted.fill(0, 2 * 4096, 3 * 4096);
      expect(Buffer.from(samples.slice().buffer).equals(Buffer.from(wanted.buffer))).toBe(true);
    });
  });

  test('tags behind the last one are not taken for sound', async () => {
    const tag = new Uint8Array(128);
    tag.set(new TextEncoder().encode('TAG'));
    const { facts } = await openSource(concatenated([bytes, tag]));
    expect(facts.frames).toBe(150_000);
  });
});
