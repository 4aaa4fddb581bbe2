import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { greatestCommonDivisor, hertz, type Rate } from '../audio/index.ts';
import { polyphaseKernel, polyphaseTwin } from '../kernel/polyphase.ts';
import { fitSine, sine } from './fixtures/sine.ts';
import { designFilter, QUALITIES, Resampler, resample } from './resample.ts';

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

/** Whole rates, fractions, and the largest ratios. */
const rates: [Rate, Rate][] = [
  [44_100, 8_000],
  [8_000, 44_100],
  [44_100, '16000000/1020'],
  ['16000000/1020', 48_000],
  [192_000, 3_000],
  [3_000, 192_000],
];

const exact = (rate: Rate) => {
  const [of, by = '1'] = String(rate).split('/');
  return { of: BigInt(of), by: BigInt(by) };
};

describe('far ratios, fractions, draft', () => {
  test.each([
    [256_000, 4_000],
    [4_000, 256_000],
    [44_100, '16000000/1020'],
    ['16000000/1020', 44_100],
    [44_100, 44_099.999],
    [48_000, 15_686.27],
  ] as [Rate, Rate][])('%s to %s Hz: a tone keeps its level, and is clean by 115 dB', (from, to) => {
    const hz = 997;
    const sound = sine(hertz(from), 2, hz);
    const out = resample(sound, from, to);
    const edge = Math.round(0.2 * hertz(to));
    const { amplitude, phase, noiseDb } = fitSine(out, hertz(to), hz, edge, out.length - edge);
    expect(Math.abs(db(amplitude / 0.9))).toBeLessThan(0.01);
    expect(Math.abs(phase)).toBeLessThan(1e-4);
    expect(noiseDb).toBeLessThan(-115);
  });

  test('rows that are weighed against each other do what exact rows do', () => {
    const input = sine(44_100, 0.5, 3_000);
    const out = resample(input, 44_100, 48_000);
    // So close to 48 000 Hz that no sample moves by more than a billionth of a second, but with 48 million phases.
    const near = resample(input, 44_100, '4800000001/100000');
    out.subarray(EDGE, -EDGE).forEach((value, i) => {
      expect(Math.abs(value - near[EDGE + i])).toBeLessThan(1e-5);
    });
  });

  test('draft: 80 dB down, a third of the taps, and no shift', () => {
    const out = resample(sine(44_100, 2, 1000), 44_100, 8_000, QUALITIES.draft);
    const { amplitude, phase } = fitSine(out, 8_000, 1000, ...middle(out));
    expect(Math.abs(db(amplitude / 0.9))).toBeLessThan(0.05);
    expect(Math.abs(phase)).toBeLessThan(1e-3);
    const folded = resample(sine(44_100, 2, 6000), 44_100, 8_000, QUALITIES.draft).subarray(EDGE, -EDGE);
    const rms = Math.sqrt(folded.reduce((sum, value) => sum + value * value, 0) / folded.length);
    expect(db(rms / (0.9 / Math.SQRT2))).toBeLessThan(-75);
    expect(designFilter(44_100, 8_000, QUALITIES.draft).taps).toBeLessThan(designFilter(44_100, 8_000).taps / 2.5);
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

  test('lengths are exact for any two rates, fractions too', () => {
    const whole = fc.integer({ min: 2000, max: 96_000 });
    const fraction = fc.tuple(fc.integer({ min: 1_000_000, max: 20_000_000 }), fc.integer({ min: 211, max: 500 }));
    const any = fc.oneof(
      whole,
      fraction.map(([of, by]) => `${of}/${by}`),
    );
    fc.assert(
      fc.property(any, any, fc.integer({ min: 1, max: 3000 }), (from, to, frames) => {
        const wanted = (BigInt(frames) * exact(to).of * exact(from).by * 2n) / (exact(from).of * exact(to).by);
        expect(resample(new Float32Array(frames), from, to)).toHaveLength(Number((wanted + 1n) / 2n));
      }),
      { numRuns: 25 },
    );
  });

  test.each(rates)('silence in, exactly silence out: %s to %s Hz', (from, to) => {
    expect(resample(new Float32Array(5000), from, to).every((value) => value === 0)).toBe(true);
  });

  test.each(rates)('is linear: %s to %s Hz', (from, to) => {
    fc.assert(
      fc.property(samples, samples, fc.float({ min: -2, max: 2, noNaN: true }), (a, b, factor) => {
        const length = Math.min(a.length, b.length);
        const sum = Float32Array.from({ length }, (_, i) => a[i] + factor * b[i]);
        const parts = [a, b].map((part) => resample(part.subarray(0, length), from, to));
        resample(sum, from, to).forEach((value, i) => {
          expect(Math.abs(value - (parts[0][i] + factor * parts[1][i]))).toBeLessThan(1e-5);
        });
      }),
      { numRuns: 15 },
    );
  });

  // One step of the ratio in lowest terms, times that of a first stage: so many frames in, so many out.
  test.each([
    [44_100, 8_000, 441 * 12, 80 * 12],
    [44_100, 48_000, 147, 160],
    [48_000, 16_000, 3 * 12, 12],
    [8_000, 44_100, 80, 441],
  ])('%i to %i Hz: what comes %i frames later leaves %i frames later, bit by bit', (from, to, came, left) => {
    fc.assert(
      fc.property(samples, fc.integer({ min: 1, max: 4 }), (input, blocks) => {
        const later = new Float32Array(input.length + blocks * came);
        later.set(input, blocks * came);
        const out = resample(input, from, to);
        // What is heard before the sound begins, the filter's own ringing, is now there too.
        expect(resample(later, from, to).subarray(blocks * left)).toEqual(out);
      }),
      { numRuns: 20 },
    );
  });

  test('the same rate passes every sample unchanged', () => {
    const input = sine(8000, 0.1, 440);
    expect(resample(input, 8000, 8000)).toEqual(input);
  });

  test.each([
    [0, 8000],
    [8000, '44100/0'],
    ['1/3x', 8000],
    [8000, 8000 * 300],
  ])('%s to %s Hz is refused', (from, to) => expect(() => new Resampler(from, to)).toThrow(RangeError));
});

test('the WebAssembly kernel gives the bits of its plain twin', () => {
  for (const [from, to] of [
    [44_100, 8_000],
    [8_000, 44_100],
    [48_000, 22_050],
    [44_100, '16000000/1020'],
  ] as [Rate, Rate][]) {
    const filter = designFilter(from, to, QUALITIES.standard, typeof to === 'string' ? 64 : undefined);
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
