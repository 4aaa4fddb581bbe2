import { readFileSync } from 'node:fs';
import fc from 'fast-check';
import * as reference from 'imaadpcm';
import { describe, expect, test } from 'vitest';
import wavefile from 'wavefile';
import { openPlain } from '../facts/fixtures/open-plain.ts';
import { imaAdpcm, msAdpcm } from './index.ts';

const { WaveFile } = wavefile as unknown as typeof import('wavefile');

const fixture = (name: string) =>
  new Uint8Array(readFileSync(new URL(`../../codecs/fixtures/${name}`, import.meta.url)));
const integers = (samples: Float32Array) => Array.from(samples, (value) => value * 32_768);

const BLOCK = 256;
/** Frames of such a block: one in its header, and two in each byte behind it. */
const FRAMES = 505;
const mono = imaAdpcm.codec({ channels: 1, blockBytes: BLOCK });

/**
 * What the reference decodes of whole blocks. It leaves out the last block, and puts a sample of its own (the header's
 * third and fourth byte) behind each block's first.
 */
function referenceDecode(blocks: Uint8Array): number[] {
  const count = blocks.length / BLOCK;
  return Array.from({ length: count }, (_, i) => {
    const padded = new Uint8Array(2 * BLOCK);
    padded.set(blocks.subarray(i * BLOCK, (i + 1) * BLOCK));
    const [first, , ...rest] = reference.decode(padded, BLOCK);
    return [first, ...rest.slice(0, FRAMES - 1)];
  }).flat();
}

describe('IMA ADPCM, bit for bit against a reference package', () => {
  test('blocks of sound', () => {
    const sound = Int16Array.from({ length: 5051 }, (_, i) => 12_000 * Math.sin(i * 0.05) + 5000 * Math.sin(i * 0.7));
    const blocks = reference.encode(sound).slice(0, 10 * BLOCK);
    expect(integers(mono.decode(blocks))).toEqual(referenceDecode(blocks));
  });

  test('blocks of any bytes: every step, every code, every limit', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: -32_767, max: 32_767 }),
        fc.nat(88),
        fc.uint8Array({ minLength: BLOCK - 4, maxLength: BLOCK - 4 }),
        (first, index, codes) => {
          const block = Uint8Array.of(first & 255, (first >> 8) & 255, index, 0, ...codes);
          const ours = integers(mono.decode(block));
          // At the lower limit the reference holds at -32 767, where 16 bits go on to -32 768: compared up to there.
          const held = ours.findIndex((value) => value < -32_767);
          const count = held < 0 ? FRAMES : held;
          expect(ours).toHaveLength(FRAMES);
          expect(ours.slice(0, count)).toEqual(referenceDecode(block).slice(0, count));
        },
      ),
      { numRuns: 300 },
    );
  });

  test('a WAV file of a reference package', () => {
    const file = new WaveFile();
    const sound = Int16Array.from({ length: 4 * FRAMES + 1 }, (_, i) => 9000 * Math.sin(i * 0.1));
    file.fromScratch(1, 8000, '16', sound);
    file.toIMAADPCM();
    const bytes = file.toBuffer();
    const { facts, pcm } = openPlain(bytes);
    expect(facts).toMatchObject({ encoding: 'ima-adpcm', sampleRate: 8000, channels: 1, bitDepth: 4, warnings: [] });
    const start = Buffer.from(bytes).indexOf('data') + 8;
    const blocks = bytes.slice(start, start + 4 * BLOCK);
    expect(integers(pcm.channels[0]).slice(0, 4 * FRAMES)).toEqual(referenceDecode(blocks));
  });
});

test('Microsoft ADPCM, bit for bit against what another decoder makes of it', () => {
  const wanted = new Int16Array(fixture('files/adpcm-ms-decoded.raw').buffer);
  const { facts, pcm } = openPlain(fixture('short/short-ms.wav'));
  expect(facts).toMatchObject({ encoding: 'ms-adpcm', frames: 1003 });
  // The other one gives the last block as a whole; the file says how much of it counts.
  expect(integers(pcm.channels[0])).toEqual([...wanted.subarray(0, 1003)]);
});

describe.each([imaAdpcm, msAdpcm])('$title', (encoding) => {
  test.each([
    1, 2,
  ])('%i channels: blocks decode alone as they do together, and a block cut short as far as it goes', (channels) => {
    const blockBytes = encoding.leastBlockBytes(channels) + 32 * channels;
    const codec = encoding.codec({ channels, blockBytes });
    fc.assert(
      fc.property(
        fc.uint8Array({ minLength: 3 * blockBytes, maxLength: 3 * blockBytes }),
        fc.nat(blockBytes),
        (bytes, cut) => {
          const whole = codec.decode(bytes);
          expect(whole).toHaveLength(3 * codec.unitFrames * channels);
          const parts = [0, 1, 2].flatMap((i) => [
            ...codec.decode(bytes.subarray(i * blockBytes, (i + 1) * blockBytes)),
          ]);
          expect(parts).toEqual([...whole]);
          const short = codec.decode(bytes.subarray(0, blockBytes + cut));
          expect(short.length).toBeGreaterThanOrEqual(codec.unitFrames * channels);
          expect([...short]).toEqual([...whole.subarray(0, short.length)]);
        },
      ),
      { numRuns: 100 },
    );
  });
});
