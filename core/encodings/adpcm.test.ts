import { readFileSync } from 'node:fs';
import fc from 'fast-check';
import * as reference from 'imaadpcm';
import { describe, expect, test } from 'vitest';
import wavefile from 'wavefile';
import { openPlain } from '../facts/fixtures/open-plain.ts';
import { type BlockEncoding, codecOf, imaAdpcm, layoutOf, msAdpcm, plainEncodingOf } from './index.ts';

const { WaveFile } = wavefile as unknown as typeof import('wavefile');

const fixture = (name: string) =>
  new Uint8Array(readFileSync(new URL(`../../codecs/fixtures/${name}`, import.meta.url)));
const integers = (samples: Float32Array) => Array.from(samples, (value) => value * 32_768);

const BLOCK = 256;
/** Frames of such a block: one in its header, and two in each byte after it. */
const FRAMES = 505;
const mono = imaAdpcm.codec({ channels: 1, blockBytes: BLOCK });

/**
 * What the reference decodes of whole blocks. It leaves out the last block, and puts a sample of its own (the header's
 * third and fourth byte) after each block's first.
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

const raw = (name: string) => new Uint8Array(readFileSync(new URL(`fixtures/${name}`, import.meta.url)));
const blockEncodingOf = (id: string) => plainEncodingOf(id) as BlockEncoding;

/** Encodes in pieces of so many samples. */
function encode(encoding: BlockEncoding, samples: Int32Array, channels: number, piece = samples.length): Uint8Array {
  const encoder = encoding.encoder(encoding.layout(channels, 8000));
  const parts: Uint8Array[] = [];
  for (let at = 0; at < samples.length; at += piece) parts.push(encoder.push(samples.subarray(at, at + piece)));
  parts.push(encoder.finish());
  return Uint8Array.from(parts.flatMap((part) => [...part]));
}

/** High and low half of each byte change places. */
const swapped = (bytes: Uint8Array) => bytes.map((byte) => (byte << 4) | (byte >> 4));

// Source: `audioop` of Python 3.11, which implements the IMA recommendation (fixtures/make-ima.py).
describe('bare IMA ADPCM, bit for bit against another implementation', () => {
  const sound = Int32Array.from(new Int16Array(raw('ima-sound.raw').buffer));
  const coded = raw('ima-coded.raw');

  test.each([
    ['ima-adpcm-high', coded],
    ['ima-adpcm-low', swapped(coded)],
  ])('%s: encoded and decoded', (id, wanted) => {
    const encoding = blockEncodingOf(id);
    expect(encode(encoding, sound, 1, 333)).toEqual(wanted);
    const decoded = codecOf(encoding, layoutOf(encoding, 1, 8000)).decode(wanted);
    expect(integers(decoded)).toEqual([...new Int16Array(raw('ima-decoded.raw').buffer)]);
  });

  test('our blocks hold the same codes, with the first sample of each in its header', () => {
    // The package's own encoder leaves out the second and third sample of a block, so its decoder judges ours.
    const blocks = encode(imaAdpcm, sound, 1);
    const decoded = integers(mono.decode(blocks));
    const upTo = decoded.findIndex((value) => value < -32_767);
    expect(decoded.slice(0, upTo)).toEqual(referenceDecode(blocks).slice(0, upTo));
    for (let at = 0; at < sound.length; at += FRAMES) expect(decoded[at]).toBe(sound[at]);
  });
});

// "Dialogic ADPCM Algorithm" (1988), from memory: step 16 at first; a code gives an eighth of the step, and its bits the
// step, half and a quarter of it; codes 4 to 7 move the step by 2, 4, 6, 8 places, the others one place back.
describe('OKI ADPCM against its rule, worked by hand', () => {
  const oki = blockEncodingOf('oki-adpcm');
  test.each([
    // 2 + 16 + 8 + 4 = 30, then step 34 (place 8): 4 + 34 + 17 + 8 = 63.
    ['7 7', [0x77], [30, 93]],
    // 8 is minus an eighth of the step, which stays at place 0.
    ['8 0', [0x80], [-2, 0]],
    // 4: 2 + 16 = 18, step 19 (place 2); C: 2 + 19 = 21 down, step 23.
    ['4 C', [0x4c], [18, -3]],
    // Eight steps up ten times over: held at 2047.
    ['held at the top', [0x77, 0x77, 0x77, 0x77], [30, 93, 229, 522, 1153, 2047, 2047, 2047]],
  ])('%s', (_, bytes, wanted) => {
    const decoded = codecOf(oki, layoutOf(oki, 1, 8000)).decode(Uint8Array.from(bytes));
    expect(Array.from(decoded, (value) => value * 2048)).toEqual(wanted);
  });

  test('each step of the table is 1.1 times the one before, as the paper says', () => {
    // A full code climbs eight places, and a zero falls one back: the size of a zero is an eighth of the step.
    const steps = Array.from({ length: 49 }, (_, place) => Math.floor(16 * 1.1 ** place));
    const codes = [...new Array<number>(8).fill(7), ...new Array<number>(49).fill(8)];
    const bytes = Uint8Array.from(
      { length: Math.ceil(codes.length / 2) },
      (_, i) => (codes[2 * i] << 4) | (codes[2 * i + 1] ?? 0),
    );
    const decoded = Array.from(codecOf(oki, layoutOf(oki, 1, 8000)).decode(bytes), (value) => value * 2048);
    const falls = codes.slice(8).map((_, i) => decoded[7 + i] - decoded[8 + i]);
    // From the top of the table down; the 1.1 is rounded in print, so an eighth of it may differ by one.
    for (const [i, fall] of falls.entries()) expect(Math.abs(fall - (steps[48 - i] >> 3))).toBeLessThanOrEqual(1);
  });
});

describe.each([
  'ima-adpcm',
  'ms-adpcm',
  'ima-adpcm-low',
  'ima-adpcm-high',
  'oki-adpcm',
  'oki-adpcm-low',
])('%s', (id) => {
  const encoding = blockEncodingOf(id);
  const top = 2 ** (encoding.linearBits - 1);

  test.each([1, 2])('%i channels: a sound comes back near to what it was, in pieces as in one', (channels) => {
    const frames = 3000;
    const samples = Int32Array.from({ length: frames * channels }, (_, i) =>
      Math.round(0.5 * top * Math.sin(Math.floor(i / channels) * (0.05 + 0.03 * (i % channels)))),
    );
    const bytes = encode(encoding, samples, channels);
    expect(encode(encoding, samples, channels, 70 * channels)).toEqual(bytes);
    const layout = encoding.layout(channels, 8000);
    expect(bytes).toHaveLength(encoding.bytesOf(frames, layout));
    const decoded = encoding.codec(layout).decode(bytes);
    let [signal, noise] = [0, 0];
    for (let i = 200; i < samples.length; i++) {
      signal += samples[i] ** 2;
      noise += (decoded[i] * top - samples[i]) ** 2;
    }
    // Common practice, no source: 4-bit ADPCM of a low tone is better than 20 dB.
    expect(10 * Math.log10(signal / noise)).toBeGreaterThan(20);
  });
});
