import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { keepOne, meanOfAll, mix, passThrough, spread } from './downmix.ts';
import { fitSine, sine } from './fixtures/sine.ts';
import { quantise, seededRandom } from './quantise.ts';

const bits = fc.integer({ min: 2, max: 16 });
const samples = fc.array(fc.float({ min: -1, max: 1, noNaN: true }), { minLength: 1, maxLength: 200 });

describe('rounding', () => {
  test('plain rounding is never off by more than half a level inside the range', () => {
    fc.assert(
      fc.property(samples, bits, (values, depth) => {
        const scale = 2 ** (depth - 1);
        const input = Float32Array.from(values);
        const { channels } = quantise([input], { bits: depth, dither: 'none' });
        channels[0].forEach((level, i) => {
          expect(level).toBeGreaterThanOrEqual(-scale);
          expect(level).toBeLessThanOrEqual(scale - 1);
          if (input[i] * scale <= scale - 1) expect(Math.abs(level - input[i] * scale)).toBeLessThanOrEqual(0.5);
        });
      }),
    );
  });

  test('whole levels survive, with and without going through floating point', () => {
    const all = Int32Array.from({ length: 65_536 }, (_, i) => i - 32_768);
    const { channels, clippedFrames } = quantise([Float32Array.from(all, (value) => value / 32_768)], {
      bits: 16,
      dither: 'none',
    });
    expect(channels[0]).toEqual(all);
    expect(clippedFrames).toBe(0);
  });

  test('frames beyond full scale are held and counted once', () => {
    const loud = Float32Array.of(0.5, 1.2, -1.3, 0.99);
    const { channels, clippedFrames } = quantise([loud, loud], { bits: 8, dither: 'none' });
    expect([...channels[0]]).toEqual([64, 127, -128, 127]);
    expect(clippedFrames).toBe(2);
  });

  // Textbook: signal-to-noise of a full-scale sine is 6.02 N + 1.76 dB.
  test.each([8, 12, 16])('%i bits reach 6.02 N + 1.76 dB within 0.5 dB', (depth) => {
    const full = 1 - 2 ** -(depth - 1);
    const input = sine(48_000, 1, 997, full);
    const { channels } = quantise([input], { bits: depth, dither: 'none' });
    const output = Float32Array.from(channels[0], (level) => level / 2 ** (depth - 1));
    const { noiseDb } = fitSine(output, 48_000, 997, 0, output.length);
    expect(Math.abs(-noiseDb - (6.02 * depth + 1.76 + 20 * Math.log10(full)))).toBeLessThan(0.5);
  });
});

describe('triangular dither', () => {
  const level = 0.3;
  const levels = (seed: number) =>
    quantise([new Float32Array(100_000).fill(level / 128)], { bits: 8, dither: 'triangular', seed }).channels[0];

  test('is repeatable for a seed and different for another', () => {
    expect(levels(5)).toEqual(levels(5));
    expect(levels(5)).not.toEqual(levels(6));
  });

  // Textbook (Lipshitz, Wannamaker, Vanderkooy 1992; from memory): the mean error is 0, the total variance 1/4 level squared.
  test('keeps the mean of a level between two steps, with a variance of a quarter', () => {
    const values = levels(1);
    const mean = values.reduce((sum, value) => sum + value, 0) / values.length;
    const variance = values.reduce((sum, value) => sum + (value - level) ** 2, 0) / values.length;
    expect(mean).toBeCloseTo(level, 2);
    expect(variance).toBeCloseTo(0.25, 2);
  });

  test('the random numbers are even over [0, 1)', () => {
    const random = seededRandom(3);
    const bins = new Array<number>(10).fill(0);
    for (let i = 0; i < 100_000; i++) bins[Math.floor(random() * 10)]++;
    for (const count of bins) expect(Math.abs(count - 10_000)).toBeLessThan(400);
  });
});

describe('channels', () => {
  const left = Float32Array.of(0.5, -1, 0.25);
  const right = Float32Array.of(0.5, 1, 0.75);

  test.each([
    ['keep left', keepOne(2, 0), [left]],
    ['keep right', keepOne(2, 1), [right]],
    ['mean', meanOfAll(2), [Float32Array.of(0.5, 0, 0.5)]],
    ['as they are', passThrough(2), [left, right]],
  ])('%s', (_, matrix, wanted) => expect(mix([left, right], matrix)).toEqual(wanted));

  test('one channel onto two', () => expect(mix([left], spread(2))).toEqual([left, left]));

  test('the mean cannot exceed full scale', () => {
    fc.assert(
      fc.property(samples, fc.integer({ min: 1, max: 6 }), (values, count) => {
        const input = Float32Array.from(values);
        const [out] = mix(new Array<Float32Array>(count).fill(input), meanOfAll(count));
        expect(out.every((value) => Math.abs(value) <= 1 + 1e-6)).toBe(true);
      }),
    );
  });
});
