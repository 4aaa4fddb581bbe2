import { readdirSync, readFileSync } from 'node:fs';
import { setFlagsFromString } from 'node:v8';
import { runInNewContext } from 'node:vm';
import { concatenated, InputError, inMemory, surveyStream } from '@tambur/core';
import fc from 'fast-check';
import { beforeAll, describe, expect, test, vi } from 'vitest';
import { damage, damaged } from './fixtures/damage.ts';
import { random } from './fixtures/sounds.ts';
import { openSourceStream } from './index.ts';

// Decoders complain of broken frames on their own.
beforeAll(() => void vi.spyOn(console, 'error').mockImplementation(() => undefined));

setFlagsFromString('--expose-gc');
const collect: () => void = runInNewContext('gc');

const folder = new URL('./fixtures/short/', import.meta.url);
const seeds = readdirSync(folder).map((name) => ({
  name,
  bytes: new Uint8Array(readFileSync(new URL(name, folder))),
}));

/** What is promised of every reader. */
const MOST_MS = 2000;
const MOST_TIMES = 16;
const MOST_MORE = 64_000_000;

/** Memory in use, garbage left out if `limit` is passed. */
function memory(limit: number): number {
  const inUse = () => {
    const { heapUsed, external } = process.memoryUsage();
    return heapUsed + external;
  };
  if (inUse() <= limit) return 0;
  collect();
  return inUse();
}

/** Reads a file to its end; gives its frames, or null if it was refused in words. */
async function read(bytes: Uint8Array): Promise<number | null> {
  const limit = memory(0) + MOST_TIMES * bytes.length + MOST_MORE;
  try {
    const stream = await openSourceStream(inMemory(bytes));
    const facts = await surveyStream(stream, () => expect(memory(limit)).toBeLessThanOrEqual(limit));
    return facts.frames;
  } catch (error) {
    if (!(error instanceof InputError)) throw error;
    expect(error.message).toMatch(/^[A-Z].*[.]$/s);
    return null;
  }
}

/** The time that a reader works for; what the machine does for others meanwhile is not its own. */
async function timed(bytes: Uint8Array) {
  const started = process.cpuUsage();
  const frames = await read(bytes);
  const { user, system } = process.cpuUsage(started);
  return { frames, ms: (user + system) / 1000 };
}

const RUNS = Number(process.env.TAMBUR_RUNS ?? 120);

test.each(seeds)('$name, damaged in thousands of ways, is read or refused in words, in time and within bounds', async ({
  bytes,
}) => {
  expect(await read(bytes)).toBeGreaterThan(0);
  await fc.assert(
    fc.asyncProperty(damage, async (how) => {
      const { frames, ms } = await timed(damaged(bytes, how));
      // A machine may be busy for a moment: what is really slow is so twice.
      if (ms >= MOST_MS) expect((await timed(damaged(bytes, how))).ms).toBeLessThan(MOST_MS);
      if (frames !== null) expect(frames).toBeGreaterThan(0);
    }),
    { numRuns: RUNS },
  );
}, 120_000);

test.each([
  ['stco', 8],
  ['stsc', 8],
  ['stts', 8],
  ['stsz', 12],
])('an MPEG-4 index whose %s table claims four billion entries is read as far as it goes', async (name, place) => {
  const aac = seeds.find((seed) => seed.name === 'short-aac.m4a');
  if (!aac) throw new Error('the AAC file is missing');
  const bytes = aac.bytes.slice();
  const at = new TextDecoder('latin1').decode(bytes).indexOf(name);
  expect(at).toBeGreaterThan(0);
  bytes.fill(255, at + place, at + place + 4);
  const { frames, ms } = await timed(bytes);
  expect(frames === null || frames > 0).toBe(true);
  expect(ms).toBeLessThan(MOST_MS);
});

const deep = (name: string) => new Uint8Array(readFileSync(new URL(`./fixtures/deep/${name}`, import.meta.url)));

describe.each(['frag-aac.mp4', 'frag-libopus.mp4'])('fragments of %s', (name) => {
  test('are read', async () => {
    const bytes = deep(name);
    // 1 200 frames, and what the encoder puts around them.
    expect(await read(bytes)).toBeGreaterThanOrEqual(1200);
    expect(await read(bytes)).toBeLessThan(4000);
  });

  test.each(['trun', 'tfhd', 'trex'])('whose %s counts what is not there take no memory for it', async (box) => {
    const bytes = deep(name);
    const at = Buffer.from(bytes).indexOf(box);
    expect(at).toBeGreaterThan(0);
    for (const place of [4, 8, 12, 16, 20]) {
      for (const flags of [null, 0, 0x1, 0x100]) {
        const hurt = bytes.slice();
        if (flags !== null) new DataView(hurt.buffer).setUint32(at + 4, flags);
        hurt.fill(255, at + place, at + place + 4);
        expect((await timed(hurt)).ms).toBeLessThan(MOST_MS);
      }
    }
  });
});

const short = (name: string) => seeds.find((seed) => seed.name === name)?.bytes ?? new Uint8Array(0);

/** No reader wants more of a file in one piece, whatever the file claims. */
const LARGEST_PIECE = 17_000_000;

/** Makes a box claim 24 MB. */
const claimBox = (box: string) => (view: DataView) =>
  view.setUint32(Buffer.from(view.buffer).indexOf(box) - 4, 24_000_000);

test.each([
  {
    what: 'the headers of a WMA file',
    original: short('short.wma'),
    claim: (view: DataView) => view.setBigUint64(16, 24_000_000n, true),
  },
  { what: "a fragment's tfhd", original: deep('frag-aac.mp4'), claim: claimBox('tfhd') },
  { what: "a fragment's trun", original: deep('frag-aac.mp4'), claim: claimBox('trun') },
])('$what of 24 MB, as it claims, is not read in one piece', async ({ original, claim }) => {
  const bytes = concatenated([original, new Uint8Array(28_000_000)]);
  claim(new DataView(bytes.buffer));
  let largest = 0;
  const whole = inMemory(bytes);
  const read = (start: number, end: number) => {
    const part = whole.read(start, end);
    largest = Math.max(largest, part.length);
    return part;
  };
  const outcome = await openSourceStream({ size: whole.size, read })
    .then((stream) => surveyStream(stream, () => undefined))
    .catch((error: unknown) => error);
  expect(outcome instanceof InputError || (outcome as { frames: number }).frames > 0).toBe(true);
  expect(largest).toBeGreaterThan(0);
  expect(largest).toBeLessThan(LARGEST_PIECE);
});

/** What is put into files: nothing, everything, elements and boxes of no use, and groups that claim to be large. */
const fillings: Readonly<Record<string, readonly number[]>> = {
  zeros: [0],
  ones: [255],
  'empty elements': [0xec, 0x80],
  'groups of unknown size': [0xa0, 0x01, 0xff, 0xff, 0xff, 0xff, 0xff, 0xff, 0xff],
  'groups that overlap': [0xa0, 0x10, 0x20, 0, 0, 0xec, 0x80],
  'empty boxes': [0, 0, 0, 8, 0x66, 0x72, 0x65, 0x65],
  'marks of frames': [0xff, 0xf8],
};

// Bare AMR is left out: there each byte is a frame, and so much more sound.
describe.each(seeds.filter(({ name }) => name !== 'short.amr'))('$name', ({ bytes }) => {
  test.each(Object.entries(fillings))('twice as many %s are at most twice as much to read', async (_, pattern) => {
    for (const place of [bytes.length, Math.floor(0.6 * bytes.length)]) {
      const work: number[] = [];
      for (const count of [25_000, 50_000, 100_000]) {
        const filling = Uint8Array.from({ length: count }, (__, i) => pattern[i % pattern.length]);
        const file = inMemory(concatenated([bytes.subarray(0, place), filling, bytes.subarray(place)]));
        let taken = 0;
        const counted = {
          size: file.size,
          read(start: number, end: number) {
            const part = file.read(start, end);
            taken += part.length;
            return part;
          },
        };
        try {
          await surveyStream(await openSourceStream(counted), () => undefined);
        } catch (error) {
          if (!(error instanceof InputError)) throw error;
        }
        work.push(taken);
      }
      const [small, middle, large] = work;
      // Windows are read whole, so a few of them are added.
      expect(large - middle).toBeLessThanOrEqual(2.2 * (middle - small) + 2_000_000);
    }
  });
});

const hostile = new URL('./fixtures/hostile/', import.meta.url);

/** Memory that a small file may take, in bytes: far less than one that believes what it claims. */
const MOST_MEMORY = 300_000_000;

test.each(readdirSync(hostile))('%s, which once made trouble, makes none', async (name) => {
  const before = process.memoryUsage().arrayBuffers;
  const { ms } = await timed(new Uint8Array(readFileSync(new URL(name, hostile))));
  expect(ms).toBeLessThan(MOST_MS);
  expect(process.memoryUsage().arrayBuffers - before).toBeLessThan(MOST_MEMORY);
});

test('a packet of ALAC that claims four billion frames takes no memory for them', async () => {
  const bytes = deep('six-alac.m4a');
  const sound = Buffer.from(bytes).indexOf('mdat') + 4;
  // The first element: its kind and place, 12 bits of nothing, and then "shorter than usual, as it is", and how long.
  const view = new DataView(bytes.buffer);
  view.setUint32(sound, (view.getUint32(sound) & 0xffff_e000) | 0x1200 | 0x1ff);
  view.setUint32(sound + 4, 0xffff_ffff);
  const before = process.memoryUsage().arrayBuffers;
  expect((await timed(bytes)).ms).toBeLessThan(MOST_MS);
  expect(process.memoryUsage().arrayBuffers - before).toBeLessThan(MOST_MEMORY);
});

test('more channels than are read are refused before any of them is decoded', async () => {
  const bytes = new Uint8Array(readFileSync(new URL('./fixtures/tone-440-hz-24000-frames.opus', import.meta.url)));
  // The channels of the first packet (RFC 7845, 5.1), after the page's head of 28 bytes.
  bytes[28 + 9] = 255;
  await expect(openSourceStream(inMemory(bytes))).rejects.toThrow(/states 255 channels, and Tambur reads at most 64/);
});

test('bare samples that begin as an AAC or MP3 frame does are read as what they are said to be', async () => {
  const reading = { encoding: 'pcm-s16le', sampleRate: 8000, channels: 1 };
  const noise = random(24);
  for (const start of [
    [0xff, 0xf1, 0x50, 0x80],
    [0xff, 0xf9, 0x60, 0x40],
    [0xff, 0xfb, 0x90, 0x00],
  ]) {
    for (const length of [12, 100, 1000, 20_000, 100_000]) {
      const bytes = Uint8Array.from({ length }, (_, i) => start[i] ?? Math.floor(256 * noise()));
      const { stated } = await openSourceStream(inMemory(bytes), { reading });
      expect(stated.encoding, `${length} bytes after ${start}`).toBe('pcm-s16le');
    }
  }
});

/** A fixture in which every occurrence of some letters is another of as many. */
function relettered(name: string, from: string, to: string): Uint8Array {
  const text = readFileSync(new URL(`./fixtures/deep/${name}`, import.meta.url)).toString('latin1');
  return new Uint8Array(Buffer.from(text.replaceAll(from, to), 'latin1'));
}

test.each<[string, Uint8Array]>([
  ['bare frames', Uint8Array.of(0x7f, 0xfe, 0x80, 0x01, ...new Array(100).fill(0))],
  ['Matroska', relettered('six-ac3.mkv', 'A_AC3', 'A_DTS')],
  ['MPEG-4', relettered('six-ac3.mp4', 'ac-3', 'dtsc')],
])('DTS in %s is refused in one sentence that names it', async (_, bytes) => {
  await expect(openSourceStream(inMemory(bytes))).rejects.toThrow(/^The .*DTS.*, which Tambur cannot read; .*\.$/);
});
