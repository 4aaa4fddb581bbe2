import { readdirSync, readFileSync } from 'node:fs';
import { setFlagsFromString } from 'node:v8';
import { runInNewContext } from 'node:vm';
import { InputError, inMemory, surveyStream } from '@tambur/core';
import fc from 'fast-check';
import { beforeAll, expect, test, vi } from 'vitest';
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

/** Memory in use, garbage left out where `limit` is passed. */
function memory(limit: number): number {
  const inUse = () => {
    const { heapUsed, external } = process.memoryUsage();
    return heapUsed + external;
  };
  if (inUse() <= limit) return 0;
  collect();
  return inUse();
}

/** Reads a file to its end; gives its frames, or null where it was refused in words. */
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

type Damage = typeof damage extends fc.Arbitrary<infer T> ? T : never;

async function timed(bytes: Uint8Array) {
  const started = performance.now();
  const frames = await read(bytes);
  return { frames, ms: performance.now() - started };
}

/** Changed bytes, mostly in front, where headers are; a piece left out or doubled; the end cut off. */
const damage = fc.record({
  changes: fc.array(
    fc.record({
      at: fc.oneof(fc.nat(150), fc.nat(8000)),
      value: fc.oneof(fc.nat(255), fc.constantFrom(0, 1, 127, 128, 255)),
    }),
    { maxLength: 12 },
  ),
  piece: fc.option(fc.record({ from: fc.nat(4000), length: fc.nat(600), times: fc.constantFrom(0, 2, 3) }), {
    freq: 2,
  }),
  length: fc.option(fc.nat(8000), { freq: 2 }),
});

function damaged(bytes: Uint8Array, { changes, piece, length }: Damage): Uint8Array {
  const out = Array.from(bytes);
  if (piece) {
    const taken = out.slice(piece.from, piece.from + piece.length);
    out.splice(piece.from, piece.length, ...Array.from({ length: piece.times }, () => taken).flat());
  }
  for (const { at, value } of changes) if (at < out.length) out[at] = value;
  return Uint8Array.from(length === null ? out : out.slice(0, Math.max(1, length)));
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
