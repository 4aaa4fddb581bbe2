import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { BLOCKS, type BlockFilter, blockKernel, blockTwin, takenBy } from '../kernel/blocks.ts';
import { polyphaseKernel, polyphaseTwin } from '../kernel/polyphase.ts';
import { greatestCommonDivisor, hertz, type Rate } from '../numbers/index.ts';
import { fitSine, sine } from './fixtures/sine.ts';
import { designFilter } from './polyphase-step.ts';
import { ratioOf } from './rate-step.ts';
import { QUALITIES, Resampler, resample } from './resample.ts';
import { radicesOf, transformPlan } from './transform-plan.ts';

const db = (ratio: number) => 20 * Math.log10(ratio);

/** Frames at each end that are left out of a measurement: longer than any filter here reaches. */
const EDGE = 1200;
const middle = (samples: Float32Array) => [EDGE, samples.length - EDGE] as const;

const asBytes = ({ buffer, byteOffset, byteLength }: Float32Array) => Buffer.from(buffer, byteOffset, byteLength);

/** A whole sound, in blocks as long ones are, or output by output as short ones are. */
const converted = (samples: Float32Array, from: Rate, to: Rate, frames: number) =>
  new Resampler(from, to, { frames }).finish(samples);

/** Whole rates, fractions, and the largest ratios. */
const rates: [Rate, Rate][] = [
  [44_100, 8_000],
  [8_000, 44_100],
  [44_100, '16000000/1020'],
  ['16000000/1020', 48_000],
  [192_000, 3_000],
  [3_000, 192_000],
];

const WAYS = [
  ['in blocks', Number.POSITIVE_INFINITY],
  ['output by output', 1],
] as const;

describe.each(WAYS)('quality, %s', (_, frames) => {
  const resample = (samples: Float32Array, from: Rate, to: Rate) => converted(samples, from, to, frames);

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

  test('silence between sounds stays exactly silence', () => {
    const length = fc.integer({ min: 0, max: 20_000 });
    fc.assert(
      fc.property(fc.constantFrom(...rates), length, length, ([from, to], before, after) => {
        const [rate, scale] = [hertz(from), hertz(to) / hertz(from)];
        // No filter here reaches further than so many frames of the lower rate.
        const reach = Math.ceil(160 / Math.min(1, scale));
        const silent = 4 * reach;
        const sound = Float32Array.from({ length: before + silent + after }, (_, n) =>
          n < before || n >= before + silent ? 0.5 + 0.4 * Math.sin((2 * Math.PI * 300 * n) / rate) : 0,
        );
        const out = resample(sound, from, to);
        const inner = out.subarray(Math.ceil((before + reach) * scale), Math.floor((before + silent - reach) * scale));
        expect(inner.length).toBeGreaterThan(0);
        expect(inner.every((value) => value === 0)).toBe(true);
        expect(out.some((value) => value !== 0)).toBe(before + after > 0);
      }),
      { numRuns: 30 },
    );
  });
});

describe('the filter itself', () => {
  test('100 dB down from the lower Nyquist frequency upward, symmetric, unit gain at DC', () => {
    const { taps, phases, coefficients } = designFilter(ratioOf(44_100, 8_000));
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

const exact = (rate: Rate) => {
  const [of, by = '1'] = String(rate).split('/');
  return { of: BigInt(of), by: BigInt(by) };
};

describe.each(WAYS)('far ratios and fractions, %s', (_, frames) => {
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
    const out = converted(sound, from, to, frames);
    const edge = Math.round(0.2 * hertz(to));
    const { amplitude, phase, noiseDb } = fitSine(out, hertz(to), hz, edge, out.length - edge);
    expect(Math.abs(db(amplitude / 0.9))).toBeLessThan(0.01);
    expect(Math.abs(phase)).toBeLessThan(1e-4);
    expect(noiseDb).toBeLessThan(-115);
  });
});

describe('rows between rows, draft', () => {
  test('rows that are weighed against each other do what exact rows do', () => {
    const input = sine(44_100, 0.5, 3_000);
    const out = converted(input, 44_100, 48_000, 1);
    // So close to 48 000 Hz that no sample moves by more than a billionth of a second, but with 48 million phases.
    const near = converted(input, 44_100, '4800000001/100000', 1);
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
    expect(designFilter(ratioOf(44_100, 8_000), QUALITIES.draft).taps).toBeLessThan(
      designFilter(ratioOf(44_100, 8_000)).taps / 2.5,
    );
  });
});

describe.each(WAYS)('lengths and pieces, %s', (_, frames) => {
  const rate = fc.constantFrom(8000, 11_025, 16_000, 22_050, 32_000, 44_100, 48_000);
  const samples = fc
    .array(fc.float({ min: -1, max: 1, noNaN: true }), { minLength: 1, maxLength: 700 })
    .map((values) => Float32Array.from(values));

  test('output frames = round(input frames x to / from)', () => {
    fc.assert(
      fc.property(rate, rate, fc.integer({ min: 1, max: 30_000 }), (from, to, length) => {
        expect(converted(new Float32Array(length), from, to, frames)).toHaveLength(Math.round((length * to) / from));
      }),
      { numRuns: 40 },
    );
  });

  test('pieces of any size give the bits that one piece gives', () => {
    const sizes = fc.array(fc.oneof(fc.nat(120), fc.nat(40_000)), { maxLength: 12 });
    fc.assert(
      fc.property(fc.nat(100_000), rate, rate, sizes, (length, from, to, pieces) => {
        const input = sine(from, length / from, 440);
        const resampler = new Resampler(from, to, { frames });
        const out: Float32Array[] = [];
        let at = 0;
        for (const size of pieces) {
          out.push(resampler.push(input.subarray(at, at + size)).slice());
          at = Math.min(input.length, at + size);
        }
        out.push(resampler.push(input.subarray(at)).slice(), resampler.finish());
        expect(Buffer.concat(out.map(asBytes)).equals(asBytes(converted(input, from, to, frames)))).toBe(true);
      }),
      { numRuns: 40 },
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
      fc.property(any, any, fc.integer({ min: 1, max: 3000 }), (from, to, length) => {
        const wanted = (BigInt(length) * exact(to).of * exact(from).by * 2n) / (exact(from).of * exact(to).by);
        expect(converted(new Float32Array(length), from, to, frames)).toHaveLength(Number((wanted + 1n) / 2n));
      }),
      { numRuns: 8 },
    );
  });

  test.each(rates)('silence in, exactly silence out: %s to %s Hz', (from, to) => {
    expect(converted(new Float32Array(5000), from, to, frames).every((value) => value === 0)).toBe(true);
  });

  test.each(rates)('is linear: %s to %s Hz', (from, to) => {
    fc.assert(
      fc.property(samples, samples, fc.float({ min: -2, max: 2, noNaN: true }), (a, b, factor) => {
        const length = Math.min(a.length, b.length);
        const sum = Float32Array.from({ length }, (_, i) => a[i] + factor * b[i]);
        const parts = [a, b].map((part) => converted(part.subarray(0, length), from, to, frames));
        converted(sum, from, to, frames).forEach((value, i) => {
          expect(Math.abs(value - (parts[0][i] + factor * parts[1][i]))).toBeLessThan(1e-5);
        });
      }),
      { numRuns: 15 },
    );
  });

  test.each(rates)('%s to %s Hz: what comes later leaves later, and is the same', (from, to) => {
    const { of, by } = ratioOf(from, to);
    // So many turns of the ratio that the places of the blocks are others.
    const turns = Math.ceil(5000 / Math.max(of, by));
    fc.assert(
      fc.property(samples, fc.integer({ min: 1, max: 4 }), (input, times) => {
        const later = new Float32Array(input.length + times * turns * by);
        later.set(input, times * turns * by);
        const out = converted(input, from, to, frames);
        converted(later, from, to, frames)
          .subarray(times * turns * of)
          .forEach((value, i) => {
            expect(Math.abs(value - out[i])).toBeLessThan(5e-7);
          });
      }),
      { numRuns: 12 },
    );
  });
});

describe('edges', () => {
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

describe('transforms', () => {
  const noise = (length: number) => Float32Array.from({ length }, (_, i) => Math.sin(i * i * 0.37));
  const filterOf = (into: number, back: number): BlockFilter => ({
    into: transformPlan(into),
    back: transformPlan(back),
    weights: noise(Math.min(into, back) / 2 - 1),
    hop: into / 2 - 1,
    first: 3,
    given: back / 2 + 1,
  });

  test.each([
    [12, 8],
    [84, 60],
    [420, 504],
    [640, 3528],
    [1372, 1024],
  ])('%i to %i bins: the WebAssembly kernel gives the bits of its plain twin', (into, back) => {
    const filter = filterOf(into, back);
    const input = noise(takenBy(filter));
    const [a, b] = [blockTwin(filter), blockKernel(filter)].map((kernel) => {
      const out = new Float32Array(BLOCKS * filter.given);
      kernel(input, out);
      return out;
    });
    expect(b).toEqual(a);
    expect(a.some((value) => value !== 0)).toBe(true);
  });

  test('every block is what the sums of the definition give', () => {
    const [into, back] = [84, 60];
    const { weights, hop, first, given } = filterOf(into, back);
    const input = noise(takenBy(filterOf(into, back)));
    const out = new Float32Array(BLOCKS * given);
    blockTwin(filterOf(into, back))(input, out);
    for (let block = 0; block < BLOCKS; block++) {
      for (let n = 0; n < given; n++) {
        let sum = 0;
        for (let k = 1 - weights.length; k < weights.length; k++) {
          for (let m = 0; m < into; m++) {
            const angle = 2 * Math.PI * k * ((first + n) / back - m / into);
            sum += weights[Math.abs(k)] * input[block * hop + m] * Math.cos(angle);
          }
        }
        expect(Math.abs(out[block * given + n] - sum)).toBeLessThan(1e-4);
      }
    }
  });

  test('counts with larger prime factors have no plan', () => {
    expect(radicesOf(44)).toBeNull();
    expect(() => transformPlan(44)).toThrow(RangeError);
  });
});

test('the WebAssembly kernel gives the bits of its plain twin', () => {
  for (const [from, to] of [
    [44_100, 8_000],
    [8_000, 44_100],
    [48_000, 22_050],
    [44_100, '16000000/1020'],
  ] as [Rate, Rate][]) {
    const filter = designFilter(ratioOf(from, to), QUALITIES.standard, typeof to === 'string' ? 64 : undefined);
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
