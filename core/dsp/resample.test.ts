import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { fitSine, sine } from './fixtures/sine.ts';
import { polyphaseKernel, polyphaseTwin } from './kernel/polyphase.ts';
import { designFilter, greatestCommonDivisor, Resampler, resample } from './resample.ts';

const db = (ratio: number) => 20 * Math.log10(ratio);

/** Frames at each end that are left out of a measurement: longer than any filter here reaches. */
const EDGE = 1200;
const middle = (samples: Float32Array) => [EDGE, samples.length - EDGE] as const;

describe('quality', () => {
  test.each([
    [44_100, 8_000],
    [44_100, 16_000],
    [48_000, 16_000],
    [44_100, 48_000],
    [44_100, 22_050],
    [8_000, 44_100],
  ])('%i to %i Hz: 1 kHz keeps its level within 0.05 dB and its place, and stays 96 dB clean', (from, to) => {
    const out = resample(sine(from, 3, 1000), from, to);
    const { amplitude, phase, noiseDb } = fitSine(out, to, 1000, ...middle(out));
    expect(Math.abs(db(amplitude / 0.9))).toBeLessThan(0.05);
    expect(Math.abs(phase)).toBeLessThan(1e-4);
    expect(noiseDb).toBeLessThan(-96);
  });

  test.each([
    [44_100, 8_000, 4_000],
    [44_100, 8_000, 6_000],
    [44_100, 8_000, 20_000],
    [44_100, 16_000, 8_000],
    [48_000, 16_000, 11_000],
    [44_100, 22_050, 15_000],
  ])('%i to %i Hz: %i Hz is gone below -100 dB', (from, to, hz) => {
    const out = resample(sine(from, 2, hz), from, to).subarray(EDGE, -EDGE);
    const rms = Math.sqrt(out.reduce((sum, value) => sum + value * value, 0) / out.length);
    expect(db(rms / (0.9 / Math.SQRT2))).toBeLessThan(-100);
  });

  test.each([
    [44_100, 8_000],
    [44_100, 16_000],
    [44_100, 48_000],
  ])('%i to %i Hz: flat within 0.05 dB up to 0.9 of the lower Nyquist frequency', (from, to) => {
    const nyquist = Math.min(from, to) / 2;
    for (const part of [0.01, 0.3, 0.6, 0.8, 0.85, 0.9]) {
      const out = resample(sine(from, 1.5, part * nyquist), from, to);
      const { amplitude } = fitSine(out, to, part * nyquist, ...middle(out));
      expect(Math.abs(db(amplitude / 0.9))).toBeLessThan(0.05);
    }
  });

  test('the filter itself: 100 dB down from the lower Nyquist frequency upward, symmetric, unit gain at DC', () => {
    const { taps, phases, coefficients } = designFilter(44_100, 8_000);
    // The whole prototype at 80 x 44 100 Hz, phase by phase.
    const prototype = Float64Array.from({ length: taps * phases }, (_, i) => {
      const phase = phases - 1 - (i % phases);
      return coefficients[phase * taps + Math.floor(i / phases)] / phases;
    });
    const rate = 44_100 * phases;
    const gainAt = (hz: number) => {
      let re = 0;
      let im = 0;
      prototype.forEach((h, i) => {
        re += h * Math.cos((2 * Math.PI * hz * i) / rate);
        im -= h * Math.sin((2 * Math.PI * hz * i) / rate);
      });
      return db(Math.hypot(re, im));
    };
    expect(Math.abs(gainAt(0))).toBeLessThan(1e-6);
    for (const hz of [4000, 4100, 4444, 5000, 8000, 22_050, 44_100]) expect(gainAt(hz)).toBeLessThan(-100);
    // Phase 0 is symmetric around its middle tap: linear phase.
    const row = coefficients.subarray(0, taps);
    for (let k = 1; k < taps / 2 - 1; k++) expect(row[taps / 2 - 1 - k]).toBe(row[taps / 2 - 1 + k]);
  });
});

describe('lengths, blocks, edges', () => {
  const rate = fc.constantFrom(8000, 11_025, 16_000, 22_050, 32_000, 44_100, 48_000);
  const samples = fc
    .array(fc.float({ min: -1, max: 1, noNaN: true }), { minLength: 1, maxLength: 700 })
    .map((values) => Float32Array.from(values));

  test('output frames = round(input frames x to / from)', () => {
    fc.assert(
      fc.property(rate, rate, fc.integer({ min: 1, max: 30_000 }), (from, to, frames) => {
        expect(resample(new Float32Array(frames), from, to)).toHaveLength(Math.round((frames * to) / from));
      }),
      { numRuns: 60 },
    );
  });

  test('blocks of any size give the bits that one block gives', () => {
    fc.assert(
      fc.property(samples, rate, rate, fc.array(fc.nat(120), { maxLength: 20 }), (input, from, to, sizes) => {
        const resampler = new Resampler(from, to);
        const out: number[] = [];
        let at = 0;
        for (const size of sizes) {
          out.push(...resampler.push(input.subarray(at, at + size)));
          at = Math.min(input.length, at + size);
        }
        out.push(...resampler.push(input.subarray(at)), ...resampler.finish());
        expect(Float32Array.from(out)).toEqual(resample(input, from, to));
      }),
      { numRuns: 60 },
    );
  });

  test('silence in, exactly silence out', () => {
    expect(resample(new Float32Array(5000), 44_100, 8_000).every((value) => value === 0)).toBe(true);
  });

  test('the same rate passes every sample unchanged', () => {
    const input = sine(8000, 0.1, 440);
    expect(resample(input, 8000, 8000)).toEqual(input);
  });

  test.each([
    [0, 8000],
    [8000, 44_100.5],
    [8000, 8000 * 300],
  ])('%d to %d Hz is refused', (from, to) => expect(() => new Resampler(from, to)).toThrow(RangeError));
});

test('the WebAssembly kernel gives the bits of its plain twin', () => {
  for (const [from, to] of [
    [44_100, 8_000],
    [8_000, 44_100],
    [48_000, 22_050],
  ]) {
    const filter = designFilter(from, to);
    const count = 300;
    const length = filter.taps + Math.ceil(((count + 1) * filter.step) / filter.phases);
    const input = Float32Array.from({ length }, (_, i) => Math.sin(i * i * 0.01));
    const [a, b] = [new Float32Array(count), new Float32Array(count)];
    polyphaseTwin(filter)(input, a, count, filter.phases - 1);
    polyphaseKernel(filter, length, count)(input, b, count, filter.phases - 1);
    expect(b).toEqual(a);
    expect(a.some((value) => value !== 0)).toBe(true);
  }
});

test('largest common divisors', () => {
  expect(greatestCommonDivisor(44_100, 8_000)).toBe(100);
  expect(greatestCommonDivisor(44_100, 48_000)).toBe(300);
});
