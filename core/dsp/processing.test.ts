import { execFileSync } from 'node:child_process';
import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { deinterleave } from '../audio/index.ts';
import { crc32 } from '../bytes/index.ts';
import { fractionOf } from '../numbers/index.ts';
import { FADE_SHAPES, fadeGain } from './fades.ts';
import { butterworth, FilterCascade } from './filters.ts';
import { fitSine, sine } from './fixtures/sine.ts';
import { Limiter } from './limiter.ts';
import { hearing, noiseShaping } from './noise-shaping.ts';
import { Quantiser, quantise } from './quantise.ts';
import { bestSeam } from './seam.ts';
import { energyAbove, SPECTRUM_SIZE, SpectrumMeter } from './spectrum.ts';

const db = (ratio: number) => 20 * Math.log10(ratio);
const sizes = fc.array(fc.integer({ min: 1, max: 90 }), { minLength: 1, maxLength: 12 });
const samples = fc
  .array(fc.float({ min: -2, max: 2, noNaN: true }), { minLength: 1, maxLength: 600 })
  .map((values) => Float32Array.from(values));

/** The same sound in one block and in many. */
function inBlocks(
  input: Float32Array,
  blocks: readonly number[],
  push: (block: Float32Array) => Float32Array,
): number[] {
  const out: number[] = [];
  for (let at = 0, k = 0; at < input.length; at += blocks[k % blocks.length], k++) {
    out.push(...push(input.subarray(at, at + blocks[k % blocks.length])));
  }
  return out;
}

describe('filters', () => {
  // A Butterworth filter of order n is 10 log10(1 + (corner / f)^2n) down (textbook); the bilinear transform bends f to
  // tan(pi f / rate).
  test.each([
    ['high-pass', 300, 44_100, [30, 75, 150, 300, 600, 5000]],
    ['low-pass', 3400, 16_000, [100, 1700, 3400, 5000, 6500]],
    ['high-pass', 120, 8_000, [20, 60, 120, 1000]],
  ] as const)('%s at %i Hz, rate %i: the levels of the textbook', (kind, corner, rate, tones) => {
    for (const hz of tones) {
      const out = new FilterCascade(butterworth(kind, corner, rate)).push(sine(rate, 4, hz));
      const { amplitude } = fitSine(out, rate, hz, rate, out.length);
      const bent = (f: number) => Math.tan((Math.PI * f) / rate);
      const ratio = kind === 'high-pass' ? bent(corner) / bent(hz) : bent(hz) / bent(corner);
      expect(Math.abs(db(amplitude / 0.9) + 10 * Math.log10(1 + ratio ** 8))).toBeLessThan(0.05);
    }
  });

  test('silence stays silence, and blocks of any size give the same bits', () => {
    const make = () => new FilterCascade(butterworth('high-pass', 200, 8000));
    expect(
      make()
        .push(new Float32Array(999))
        .every((value) => value === 0),
    ).toBe(true);
    fc.assert(
      fc.property(samples, sizes, (input, blocks) => {
        const filter = make();
        expect(inBlocks(input, blocks, (block) => filter.push(block))).toEqual([...make().push(input)]);
      }),
    );
  });
});

describe('the limiter of the true peak', () => {
  /** What another program measures, eight times oversampled. */
  const truePeak = (samples: Float32Array) =>
    Number(
      execFileSync('python3', ['core/dsp/fixtures/true_peak.py'], {
        input: Buffer.from(samples.buffer, samples.byteOffset, samples.byteLength),
        encoding: 'utf8',
      }),
    );
  const limited = (samples: Float32Array, blocks: readonly number[]) => {
    const limiter = new Limiter(1, 48_000, 10 ** (-1 / 20));
    const out = inBlocks(samples, blocks, (block) => limiter.push([block])[0]);
    return Float32Array.from([...out, ...limiter.finish()[0]]);
  };

  test.each<[string, (i: number) => number]>([
    // A quarter of the rate, sampled at 45 degrees: 3 dB between all samples.
    ['a tone between its samples', (i) => Math.sin((Math.PI / 2) * i + Math.PI / 4)],
    ['high tones together', (i) => 0.7 * Math.sin(1.9 * i) + 0.6 * Math.sin(2.3 * i + 1) + 0.4 * Math.sin(0.3 * i)],
    ['bursts', (i) => (i % 3000 < 300 ? 1.3 : 0.2) * Math.sin(1.7 * i + Math.sin(0.01 * i))],
    ['clicks', (i) => (i % 777 < 2 ? 0.99 : 0.1 * Math.sin(0.2 * i))],
  ])('%s: at most -1 dBTP and a tenth of a dB, as another program measures it', (_, value) => {
    const input = Float32Array.from({ length: 12_000 }, (__, i) => value(i));
    // So it is without.
    expect(truePeak(input)).toBeGreaterThan(-0.5);
    const out = limited(input, [4096]);
    expect(out).toHaveLength(input.length);
    expect(truePeak(out)).toBeLessThan(-0.9);
    expect(truePeak(out)).toBeGreaterThan(-2.5);
    expect(limited(input, [700, 1, 33])).toEqual(out);
  });
});

describe('the limiter', () => {
  const limit = (input: Float32Array, ceiling: number) => {
    const limiter = new Limiter(ceiling, 8000);
    const [first = new Float32Array(0)] = limiter.push([input]);
    return { out: [...first, ...limiter.finish()[0]], limiter };
  };

  test('never exceeds its ceiling, keeps the length and the signs, and leaves alone what is below', () => {
    fc.assert(
      fc.property(samples, fc.float({ min: Math.fround(0.1), max: 1, noNaN: true }), (input, ceiling) => {
        const { out, limiter } = limit(input, ceiling);
        expect(out).toHaveLength(input.length);
        const peak = Math.max(...input.map(Math.abs));
        out.forEach((value, i) => {
          expect(Math.abs(value)).toBeLessThanOrEqual(ceiling);
          expect(value * input[i]).toBeGreaterThanOrEqual(0);
        });
        if (peak <= ceiling) expect(out).toEqual([...input]);
        else if (peak > 1.02 * ceiling) expect(limiter.limitedFrames).toBeGreaterThan(0);
      }),
    );
  });

  test('goes down before a peak, up again behind it, and never jumps', () => {
    const input = Float32Array.from({ length: 4000 }, (_, i) => (i === 2000 ? 1 : 0.25));
    const { out, limiter } = limit(input, 0.5);
    const gains = out.map((value, i) => value / input[i]);
    expect(gains[2000]).toBeCloseTo(0.5, 6);
    expect(limiter.lowestGain).toBeCloseTo(0.5, 6);
    expect(gains[1900]).toBe(1);
    expect(gains[3999]).toBeGreaterThan(0.93);
    gains.forEach((gain, i) => {
      if (i > 0) expect(Math.abs(gain - gains[i - 1])).toBeLessThan(0.02);
    });
  });

  test('both channels get the same gain, in blocks of any size', () => {
    fc.assert(
      fc.property(samples, sizes, (left, blocks) => {
        const right = left.map((value) => value / 2);
        const limiter = new Limiter(0.6, 8000);
        const whole = new Limiter(0.6, 8000);
        const out: number[] = [];
        for (let at = 0, k = 0; at < left.length; at += blocks[k % blocks.length], k++) {
          const end = at + blocks[k % blocks.length];
          out.push(...limiter.push([left.subarray(at, end), right.subarray(at, end)])[0]);
        }
        out.push(...limiter.finish()[0]);
        const [l, r] = whole.push([left, right]);
        const [l2, r2] = whole.finish();
        expect(out).toEqual([...l, ...l2]);
        [...l, ...l2].forEach((value, i) => {
          expect([...r, ...r2][i]).toBeCloseTo(value / 2, 6);
        });
      }),
    );
  });
});

describe('dither and noise shaping', () => {
  const rate = 44_100;
  const tone = sine(rate, 2, 1000, 0.25);
  const noiseOf = (dither: 'none' | 'rectangular' | 'triangular' | 'shaped', sampleRate = rate, sound = tone) => {
    const { channels } = quantise([sound], { bits: 8, dither, sampleRate });
    return sound.map((value, i) => channels[0][i] / 128 - value);
  };
  const power = (values: Float32Array) => values.reduce((sum, value) => sum + value * value, 0) / values.length;
  const weighted = (values: Float32Array, sampleRate: number) => {
    const meter = new SpectrumMeter({ thorough: true });
    meter.add([values]);
    return meter.result().reduce((sum, value, k) => sum + value * hearing((k * sampleRate) / SPECTRUM_SIZE), 0);
  };

  // Lipshitz, Wannamaker, Vanderkooy 1992 (from memory): in levels squared the error is 1/12 plain, 1/6 with rectangular
  // and 1/4 with triangular dither.
  test.each([
    ['none', 1 / 12],
    ['rectangular', 1 / 6],
    ['triangular', 1 / 4],
  ] as const)('%s: the error has %d level squared', (dither, wanted) => {
    const steps = Float32Array.from({ length: 200_000 }, (_, i) => (0.8 * Math.sin(i * 0.7391) * 100) / 128);
    expect(power(noiseOf(dither, rate, steps)) * 128 ** 2).toBeCloseTo(wanted, 2);
  });

  test.each([
    [44_100, 8],
    [48_000, 9],
    [32_000, 7],
    [22_050, 2],
    [16_000, 1],
    [8_000, 1.5],
  ])('shaped noise at %i Hz is quieter to the ear than plain dither by more than %d dB', (sampleRate, least) => {
    const sound = sine(sampleRate, 2, 440, 0.25);
    const gain =
      10 *
      Math.log10(
        weighted(noiseOf('triangular', sampleRate, sound), sampleRate) /
          weighted(noiseOf('shaped', sampleRate, sound), sampleRate),
      );
    expect(gain).toBeGreaterThan(least);
  });

  test('the published coefficients stand where they belong, others are made', () => {
    // Lipshitz, Vanderkooy, Wannamaker 1991 (from memory).
    expect(noiseShaping(44_100)).toEqual([2.033, -2.165, 1.959, -1.59, 0.6149]);
    expect(noiseShaping(8_000)).toHaveLength(5);
  });

  // Terhardt 1979 (from memory), worked out by hand: 3.64 x 10^0.8 = 22.97; 3.64 - 0.27 = 3.37; 1.40 - 6.50 + 0.12 = -4.98.
  test.each([
    [100, 22.97],
    [1000, 3.37],
    [3300, -4.98],
  ])('the threshold of hearing at %d Hz is %d dB', (hz, wanted) => {
    expect(-10 * Math.log10(hearing(hz))).toBeCloseTo(wanted, 1);
  });

  test('silence stays silence, or is dithered, as wished', () => {
    const gap = new Float32Array(3000);
    gap.fill(0.1, 1000, 1500);
    const blank = quantise([gap], { bits: 8, dither: 'shaped' }).channels[0];
    expect(blank.subarray(0, 1000).every((level) => level === 0)).toBe(true);
    expect(blank.subarray(1600).every((level) => level === 0)).toBe(true);
    expect(blank.subarray(1000, 1500).some((level) => level !== 13)).toBe(true);
    const hiss = quantise([gap], { bits: 8, dither: 'triangular', blanks: false }).channels[0];
    expect(hiss.subarray(1600).some((level) => level !== 0)).toBe(true);
  });

  test('rounding down loses half a level, and one bit keeps the sign', () => {
    const { channels } = quantise([tone], { bits: 8, dither: 'none', rounding: 'down' });
    const mean = tone.reduce((sum, value, i) => sum + channels[0][i] - value * 128, 0) / tone.length;
    expect(mean).toBeCloseTo(-0.5, 1);
    const one = quantise([Float32Array.of(0.4, -0.1, 0.0001, -1)], { bits: 1, dither: 'none' });
    expect([...one.channels[0]]).toEqual([0, -1, 0, -1]);
    expect(one.clippedFrames).toBe(0);
  });

  test('blocks of any size give the same levels', () => {
    fc.assert(
      fc.property(samples, sizes, (input, blocks) => {
        const options = { bits: 6, dither: 'shaped', sampleRate: 44_100 } as const;
        const quantiser = new Quantiser(options);
        const out = inBlocks(input, blocks, (block) => Float32Array.from(quantiser.push([block])[0]));
        expect(out).toEqual([...quantise([input], options).channels[0]]);
      }),
    );
  });
});

describe('fades', () => {
  test.each(FADE_SHAPES)('%s: rises from above 0 to 1, never back', (shape) => {
    for (const frames of [1, 2, 50]) {
      const gains = Array.from({ length: frames + 1 }, (_, n) => fadeGain(shape, n, frames));
      expect(gains[0]).toBeGreaterThan(0);
      expect(gains[frames]).toBe(1);
      expect(gains).toEqual(gains.toSorted((a, b) => a - b));
    }
  });

  test('equal power means equal power; the others meet their formulas in the middle', () => {
    for (let n = 0; n < 99; n++) {
      expect(fadeGain('equal-power', n, 99) ** 2 + fadeGain('equal-power', 98 - n, 99) ** 2).toBeCloseTo(1, 12);
      expect(fadeGain('smooth', n, 99) + fadeGain('smooth', 98 - n, 99)).toBeCloseTo(1, 12);
    }
    expect(fadeGain('linear', 49, 99)).toBeCloseTo(0.5, 12);
    expect(db(fadeGain('exponential', 49, 99))).toBeCloseTo(-30, 6);
  });
});

describe('the seam of a loop', () => {
  test.each([440, 317.3, 1234.5])('a tone of %d Hz goes on over the seam', (hz) => {
    const rate = 44_100;
    const sound = sine(rate, 1.0137, hz);
    const reach = 6000;
    const { start, end, likeness } = bestSeam(sound.subarray(0, reach), sound.subarray(-reach), sound.length, rate);
    expect(likeness).toBeGreaterThan(0.99);
    // A whole number of periods lies between both ends, within a part of a period that a frame is long.
    const periods = ((end - start) * hz) / rate;
    expect(Math.abs(periods - Math.round(periods))).toBeLessThan((0.75 * hz) / rate);
    expect(end - start).toBeGreaterThan(sound.length - 2 * reach);
  });

  test('what stands in front for a cross-fade is left out of the loop; silence loops anywhere', () => {
    const sound = sine(8000, 1, 200);
    const { start } = bestSeam(sound.subarray(0, 2000), sound.subarray(-2000), sound.length, 8000, 500);
    expect(start).toBeGreaterThanOrEqual(500);
    const quiet = new Float32Array(8000);
    expect(bestSeam(quiet.subarray(0, 900), quiet.subarray(-900), 8000, 8000).likeness).toBe(1);
  });
});

describe('the long-term spectrum', () => {
  const spectrumOf = (channels: readonly Float32Array[]) => {
    const meter = new SpectrumMeter({ window: 'flat-top', thorough: true });
    meter.add(channels);
    return meter.levels();
  };

  // Frequencies between the bins too: a flat-top window shows every one at its level.
  test.each([100, 996.7, 1000, 1003.1, 5555.5, 17_000])('a sine of %d Hz shows its level within 0.1 dB', (hz) => {
    for (const amplitude of [1, 0.1, 0.001]) {
      const levels = spectrumOf([sine(44_100, 3, hz, amplitude)]);
      expect(Math.abs(Math.max(...levels) - db(amplitude))).toBeLessThan(0.1);
      const bin = levels.indexOf(Math.max(...levels));
      expect(Math.abs((bin * 44_100) / SPECTRUM_SIZE - hz)).toBeLessThanOrEqual(44_100 / SPECTRUM_SIZE);
    }
  });

  test('two channels show their mean power, a short sound its level all the same, silence nothing', () => {
    const tone = sine(44_100, 1, 1000, 0.5);
    expect(Math.max(...spectrumOf([tone, tone]))).toBeCloseTo(db(0.5), 1);
    expect(Math.max(...spectrumOf([tone, new Float32Array(tone.length)]))).toBeCloseTo(db(0.5) - 3.01, 1);
    expect(Math.max(...spectrumOf([tone.subarray(0, 2500)]))).toBeCloseTo(db(0.5), 1);
    expect(Math.max(...spectrumOf([new Float32Array(9000)]))).toBe(Number.NEGATIVE_INFINITY);
  });

  test('no window reaches over a gap', () => {
    // Two pieces of a tone that do not fit together: a window over both would smear it.
    const tone = sine(44_100, 2, 1000, 0.5);
    const smeared = new SpectrumMeter({ thorough: true });
    const apart = new SpectrumMeter({ thorough: true });
    for (const start of [0, 20_011, 40_037]) {
      const piece = tone.subarray(start, start + 3 * SPECTRUM_SIZE + 100);
      smeared.add([piece]);
      apart.gap();
      apart.add([piece]);
    }
    expect(energyAbove(apart.result(), 44_100, 3000)).toBeLessThan(-90);
    expect(energyAbove(smeared.result(), 44_100, 3000)).toBeGreaterThan(-60);
  });

  test('energy above a frequency: of two equal tones the upper one is half', () => {
    const meter = new SpectrumMeter({ thorough: true });
    const low = sine(44_100, 2, 500, 0.4);
    const high = sine(44_100, 2, 6000, 0.4);
    meter.add([low.map((value, i) => value + high[i])]);
    const power = meter.result();
    expect(energyAbove(power, 44_100, 3000)).toBeCloseTo(-3.01, 1);
    expect(energyAbove(power, 44_100, 100)).toBeCloseTo(0, 1);
    expect(energyAbove(power, 44_100, 12_000)).toBeLessThan(-60);
  });
});

test('small tools: the check sum of the standard, fractions, one channel', () => {
  // ISO/IEC 3309 and ITU-T V.42: the check value of "123456789" (from memory).
  const text = new TextEncoder().encode('123456789');
  expect(crc32(text)).toBe(0xcbf43926);
  expect(crc32(text.subarray(4), crc32(text.subarray(0, 4)))).toBe(0xcbf43926);
  expect(fractionOf('16000000/1020')).toEqual({ of: 800_000, by: 51 });
  expect(fractionOf(15_686.27)).toEqual({ of: 1_568_627, by: 100 });
  expect(fractionOf(44_100)).toEqual({ of: 44_100, by: 1 });
  for (const wrong of ['16000000', '1/0', 'x/3', '-1/2']) expect(() => fractionOf(wrong)).toThrow(RangeError);
  expect(deinterleave(Float32Array.of(1, 2, 3, 4, 5, 6, 7), 3)).toEqual([
    Float32Array.of(1, 4),
    Float32Array.of(2, 5),
    Float32Array.of(3, 6),
  ]);
});
