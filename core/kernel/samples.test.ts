import fc from 'fast-check';
import { expect, test } from 'vitest';
import { checksum, checksumTwin } from './checksum.ts';
import * as kernel from './samples.ts';
import * as wholeNumbers from './whole-numbers.ts';

/** Long enough for more than one piece now and then. */
const length = fc.oneof(
  { weight: 9, arbitrary: fc.nat(40) },
  { weight: 1, arbitrary: fc.integer({ min: 16_380, max: 33_000 }) },
);

const noise = (count: number, seed: number) =>
  Float32Array.from({ length: count }, (_, i) => Math.fround(Math.sin(seed + i * i * 0.37) * 1.3));

const bytesOf = (count: number, seed: number) =>
  Uint8Array.from({ length: count }, (_, i) => (Math.imul(i + seed, 2_654_435_761) >>> 13) & 255);

const pairOf = (frames: number, fill: (left: Float32Array, right: Float32Array) => void) => {
  const pair = [new Float32Array(frames), new Float32Array(frames)] as const;
  fill(...pair);
  return pair;
};

type Row = [string, (frames: number, seed: number) => [compiled: unknown, twin: unknown]];

test.each<Row>([
  [
    'splitFloats',
    (frames, seed) => [
      pairOf(frames, (l, r) => kernel.splitFloats(noise(2 * frames, seed), l, r)),
      pairOf(frames, (l, r) => kernel.splitFloatsTwin(noise(2 * frames, seed), l, r)),
    ],
  ],
  ...[noise, (frames: number, seed: number) => new Int32Array(bytesOf(4 * frames, seed).buffer)].map(
    (make, kind): Row => [
      `joinPair of ${['samples', 'whole numbers'][kind]}`,
      (frames, seed) => {
        const pair = [make(frames, seed), make(frames, seed + 1)] as const;
        const both = [kernel.joinPair, kernel.joinPairTwin].map((join) => {
          const out = new (kind ? Int32Array : Float32Array)(2 * frames);
          join<Float32Array | Int32Array>(...pair, out);
          return out;
        });
        return [both[0], both[1]];
      },
    ],
  ),
  [
    'splitIntegers',
    (frames, seed) => [
      pairOf(frames, (l, r) => kernel.splitIntegers(bytesOf(4 * frames, seed), l, r)),
      pairOf(frames, (l, r) => kernel.splitIntegersTwin(bytesOf(4 * frames, seed), l, r)),
    ],
  ],
  [
    'integersToFloats',
    (frames, seed) => [
      pairOf(frames, (l) => kernel.integersToFloats(bytesOf(2 * frames, seed), l)),
      pairOf(frames, (l) => kernel.integersToFloatsTwin(bytesOf(2 * frames, seed), l)),
    ],
  ],
  [
    'weigh',
    (frames, seed) => [
      pairOf(frames, (l) => kernel.weigh(noise(frames, seed), 0.3, noise(frames, seed + 1), -0.7, l)),
      pairOf(frames, (l) => kernel.weighTwin(noise(frames, seed), 0.3, noise(frames, seed + 1), -0.7, l)),
    ],
  ],
  [
    'scale',
    (frames, seed) => [
      pairOf(frames, (l) => kernel.scale(noise(frames, seed), 0.7300000001, l)),
      pairOf(frames, (l) => kernel.scaleTwin(noise(frames, seed), 0.7300000001, l)),
    ],
  ],
  [
    'deviation',
    (frames, seed) => [
      kernel.deviation(noise(frames, seed), noise(frames + 3, seed + 1)),
      kernel.deviationTwin(noise(frames, seed), noise(frames + 3, seed + 1)),
    ],
  ],
  [
    'round',
    (frames, seed) => {
      const scale = 2 ** (seed % 31);
      const range = { scale, highest: scale - 1, half: 0.5 * (seed & 1), most: scale - 0.5 };
      const both = [wholeNumbers.round, wholeNumbers.roundTwin].map((round) => {
        const out = new Int32Array(frames);
        return { outside: round(noise(frames, seed), range, out), out };
      });
      return [both[0], both[1]];
    },
  ],
  [
    'span',
    (frames, seed) => {
      const levels = Int32Array.from(noise(frames, seed), (sample) => sample * 2 ** 30);
      return [wholeNumbers.span(levels), wholeNumbers.spanTwin(levels)];
    },
  ],
  [
    'checksum',
    (frames, seed) => {
      const tables = Int32Array.from({ length: 2048 }, (_, i) => Math.imul(i + 1, 0x9e3779b1));
      const bytes = bytesOf(8 * frames, seed);
      return [checksum(bytes, tables, seed), checksumTwin(bytes, tables, seed)];
    },
  ],
  [
    'within',
    (frames, seed) => {
      const samples = noise(frames, seed);
      if (frames > 0) samples[seed % frames] = [0, Number.NaN, Number.POSITIVE_INFINITY, -1.31][seed % 4];
      return [kernel.within(samples, 1.3), kernel.withinTwin(samples, 1.3)];
    },
  ],
  ['highest', (frames, seed) => [kernel.highest(noise(frames, seed)), kernel.highestTwin(noise(frames, seed))]],
  [
    'extremes',
    (frames, seed) => {
      const step = 4 * (1 + (seed % 64));
      const samples = noise(frames - (frames % step), seed);
      const made = [kernel.extremes, kernel.extremesTwin].map((find) => {
        const out = new Float32Array(4 * (samples.length / step) + 2);
        find(samples, step, out, 2, 4);
        return out;
      });
      return [made[0], made[1]];
    },
  ],
  [
    'squares',
    (frames, seed) => {
      const step = 4 * (1 + (seed % 64));
      const samples = noise(frames - (frames % step), seed);
      const made = [kernel.squares, kernel.squaresTwin].map((sum) => {
        const out = new Float64Array(2 * (samples.length / step) + 1);
        sum(samples, step, out, 1, 2);
        return out;
      });
      return [made[0], made[1]];
    },
  ],
  [
    'pairLevels',
    (frames, seed) => [
      kernel.pairLevels(noise(frames, seed), noise(frames, seed + 1)),
      kernel.pairLevelsTwin(noise(frames, seed), noise(frames, seed + 1)),
    ],
  ],
])('%s gives the bits of its plain twin', (_, both) => {
  fc.assert(
    fc.property(length, fc.nat(1000), (frames, seed) => {
      const [compiled, twin] = both(frames, seed);
      expect(compiled).toEqual(twin);
    }),
    { numRuns: 40 },
  );
});

test('levels are what their definitions say', () => {
  const x = Float32Array.of(0.5, -1, 0.25, 0, 0.125);
  const y = Float32Array.of(1, 1, -0.5, 0.75, 2);
  expect(kernel.pairLevels(x, y)).toEqual({
    peaks: [1, 2],
    sums: [-0.125, 4.25],
    squares: [0.25 + 1 + 0.0625 + 0.015625, 1 + 1 + 0.25 + 0.5625 + 4],
    products: 0.5 - 1 - 0.125 + 0 + 0.25,
  });
});
