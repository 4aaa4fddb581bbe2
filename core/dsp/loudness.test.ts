import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { interpolatedPeakKernel, interpolatedPeakTwin, TAPS } from '../kernel/interpolated-peak.ts';
import { powerKernel, powerTwin, WINDOWS } from '../kernel/power.ts';
import { weightedEnergyKernel, weightedEnergyTwin } from '../kernel/weighted-energy.ts';
import { EBU_RATE, integratedCases, rangeCases, shortTermCases, tones, truePeakCases } from './fixtures/ebu.ts';
import { fft } from './fixtures/fft.ts';
import { kWeighting, LoudnessMeter } from './loudness.ts';
import { bandwidthOf, SPECTRUM_SIZE, SpectrumMeter } from './spectrum.ts';
import { transformPlan } from './transform-plan.ts';
import { TruePeakMeter } from './true-peak.ts';

const RATE = EBU_RATE;

/** A meter that was given the sound in blocks. */
function meterOf(channels: readonly Float32Array[], rate = RATE, block = 4800 * 7 + 13): LoudnessMeter {
  const meter = new LoudnessMeter(rate, channels.length);
  for (let at = 0; at < channels[0].length; at += block) meter.add(channels.map((c) => c.subarray(at, at + block)));
  return meter;
}

const twice = (channel: Float32Array) => [channel, channel];
const within = (found: number | null, { wanted, tolerance }: { wanted: number; tolerance: number }) =>
  expect(Math.abs((found ?? Number.POSITIVE_INFINITY) - wanted)).toBeLessThanOrEqual(tolerance);

describe('the synthetic signals of EBU Tech 3341 and 3342, within their tolerances', () => {
  test.each(integratedCases)('integrated loudness, case $name', (entry) => {
    within(meterOf(entry.channels()).integrated(), entry);
  });

  test.each([8000, 16_000, 22_050, 44_100, 96_000, 192_000])('integrated loudness, case 1 at %i Hz too', (rate) => {
    within(meterOf(twice(tones(rate, [-23, 20])), rate).integrated(), { wanted: -23, tolerance: 0.1 });
  });

  test.each(shortTermCases)('highest short-term loudness, case $name', (entry) => {
    within(meterOf(entry.channels()).loudestTerm(), entry);
  });

  test.each(rangeCases)('loudness range, 3342 case $name', (entry) => within(meterOf(entry.channels()).range(), entry));

  test.each(truePeakCases)('true peak, case $name', ({ samples, wanted }) => {
    const meter = new TruePeakMeter();
    const sound = samples();
    meter.add(sound.subarray(0, 777));
    meter.add(sound.subarray(777));
    const db = 20 * Math.log10(meter.result());
    expect(db).toBeLessThanOrEqual(wanted + 0.2);
    expect(db).toBeGreaterThanOrEqual(wanted - 0.4);
  });
});

/** Gain in dB of the two filters that BS.1770-4 prints for 48 000 Hz (tables 1 and 2; from memory). */
function publishedWeight(hz: number): number {
  const gain = (b: readonly number[], a: readonly number[]) => {
    const at = (k: readonly number[]) => {
      const w = (2 * Math.PI * hz) / 48_000;
      const [re, im] = [0, 1].map((part) =>
        k.reduce((sum, value, i) => sum + value * (part ? -Math.sin(i * w) : Math.cos(i * w)), 0),
      );
      return re * re + im * im;
    };
    return 10 * Math.log10(at(b) / at(a));
  };
  return (
    gain([1.53512485958697, -2.69169618940638, 1.19839281085285], [1, -1.69065929318241, 0.73248077421585]) +
    gain([1, -2, 1], [1, -1.99004745483398, 0.99007225036621])
  );
}

describe('loudness at every promised rate is that of 48 000 Hz', () => {
  test.each([
    1000, 1500, 2000, 3000, 3300, 3364, 3365, 4000, 5512, 6000, 7999, 8000, 11_025, 32_000, 192_000, 384_000, 768_000,
  ])('%d Hz', (rate) => {
    for (const hz of [60, 0.1 * rate, 0.25 * rate, 0.4 * rate].filter((value) => value < 12_000)) {
      const sine = Float32Array.from({ length: 4 * rate }, (_, i) => 0.1 * Math.sin((2 * Math.PI * hz * i) / rate));
      const wanted = -0.691 + 10 * Math.log10(0.005) + publishedWeight(hz);
      within(meterOf([sine], rate, 10_007).integrated(), { wanted, tolerance: 0.3 });
    }
  });

  test.each([1, 5, 20, 100, 999])('%d Hz is no rate of sound: there is no figure', (rate) => {
    const meter = meterOf([Float32Array.from({ length: 3000 }, (_, i) => (i % 2 ? 0.5 : -0.5))], rate);
    expect([meter.integrated(), meter.loudestTerm(), meter.range()]).toEqual([null, null, null]);
  });
});

describe('loudness', () => {
  test('blocks of any size give the same', () => {
    const channels = twice(tones(RATE, [-30, 1.3], [-18, 0.7]));
    const whole = meterOf(channels, RATE, 1_000_000).integrated();
    for (const block of [1000, 4799, 4800, 33_333]) {
      expect(meterOf(channels, RATE, block).integrated()).toBeCloseTo(whole ?? 0, 9);
    }
  });

  test('a prompt shorter than a gating block is measured as a whole; silence has none', () => {
    within(meterOf(twice(tones(RATE, [-23, 0.2]))).integrated(), { wanted: -23, tolerance: 0.1 });
    expect(meterOf(twice(new Float32Array(RATE))).integrated()).toBeNull();
    expect(meterOf(twice(new Float32Array(100))).integrated()).toBeNull();
  });

  test('what is shorter than 3 s, or silent, has neither a loudest 3 s nor a range', () => {
    for (const channel of [tones(RATE, [-20, 2]), new Float32Array(5 * RATE)]) {
      expect(meterOf(twice(channel)).loudestTerm()).toBeNull();
      expect(meterOf(twice(channel)).range()).toBeNull();
    }
  });
});

describe('bandwidth', () => {
  const bandwidth = (samples: Float32Array, rate: number) => {
    const meter = new SpectrumMeter();
    for (let at = 0; at < samples.length; at += 5000) meter.add([samples.subarray(at, at + 5000)]);
    return bandwidthOf(meter.result(), rate);
  };
  const sine = (hz: number, rate: number, frames: number) =>
    Float32Array.from({ length: frames }, (_, i) => 0.5 * Math.sin((2 * Math.PI * hz * i) / rate));

  test.each([
    [1000, 44_100],
    [3400, 44_100],
    [10_000, 48_000],
    [100, 8000],
  ])('a sine of %i Hz at %i Hz ends a few bins above itself', (hz, rate) => {
    const found = bandwidth(sine(hz, rate, 40_000), rate) ?? 0;
    expect(found).toBeGreaterThan(hz);
    expect(found - hz).toBeLessThan((24 * rate) / SPECTRUM_SIZE);
  });

  test('noise reaches up to half the rate; silence and DC have none', () => {
    let seed = 1;
    const noise = Float32Array.from({ length: 40_000 }, () => {
      seed = (Math.imul(seed, 1_664_525) + 1_013_904_223) >>> 0;
      return seed / 2 ** 31 - 1;
    });
    expect(bandwidth(noise, 44_100)).toBeGreaterThan(21_900);
    expect(bandwidth(new Float32Array(40_000), 44_100)).toBeNull();
    expect(bandwidth(new Float32Array(40_960).fill(0.5), 44_100)).toBeNull();
  });
});

test('power by frequency is that of transforms with 64 bits, within 0.01 dB', () => {
  const [size, windows] = [SPECTRUM_SIZE, 6];
  const noise = (seed: number) =>
    Float32Array.from({ length: windows * size }, (_, i) => 0.5 * Math.sin(seed * i * i * 0.01) * Math.sin(i * 0.0007));
  const sound = [noise(1), noise(2.3)];
  const meter = new SpectrumMeter();
  meter.add(sound);
  const wanted = new Float64Array(size / 2 + 1);
  for (const samples of sound) {
    for (let at = 0; at < samples.length; at += size) {
      const re = Float64Array.from(
        samples.subarray(at, at + size),
        (value, i) => value * (0.5 - 0.5 * Math.cos((2 * Math.PI * (i + 0.5)) / size)),
      );
      const im = new Float64Array(size);
      fft(re, im);
      wanted.forEach((_, k) => {
        // Both signs count, the one at half the rate twice.
        wanted[k] += (k === 0 ? 1 : 2) * (re[k] ** 2 + im[k] ** 2);
      });
    }
  }
  const whole = wanted.reduce((sum, value) => sum + value, 0);
  meter.result().forEach((power, k) => {
    if (wanted[k] > 1e-9 * whole) expect(Math.abs(10 * Math.log10(power / wanted[k]))).toBeLessThan(0.01);
    else expect(power).toBeLessThan(2e-9 * whole);
  });
});

test('power by frequency: the compiled kernel gives the same bits as its twin', () => {
  const plan = transformPlan(240);
  const noise = (count: number, seed: number) => Float32Array.from({ length: count }, (_, i) => Math.sin(seed + i * i));
  const [a, b] = [powerKernel(plan), powerTwin(plan)].map((kernel) => {
    const power = new Float64Array(121).fill(0.25);
    for (const seed of [1, 2]) kernel(noise(2 * WINDOWS * 240, seed), noise(240, 3), power);
    return power;
  });
  expect(a).toEqual(b);
});

test('a sound shorter than a window, and windows that overlap', () => {
  const tone = (frames: number) => Float32Array.from({ length: frames }, (_, i) => Math.sin((2 * Math.PI * i) / 16));
  for (const thorough of [false, true]) {
    for (const frames of [1000, 4096, 30_000]) {
      const meter = new SpectrumMeter({ window: 'flat-top', thorough });
      for (let at = 0; at < frames; at += 777) meter.add([tone(frames).subarray(at, at + 777)]);
      expect(Math.max(...meter.levels())).toBeCloseTo(0, 1);
    }
  }
});

const phase = fc.float64Array({ min: -1, max: 1, noNaN: true, minLength: TAPS, maxLength: TAPS });

test('interpolated peaks are those of the sums as they stand in BS.1770, annex 2: a phase and its mirror', () => {
  const one = Float64Array.from({ length: TAPS }, (_, i) => (i + 1) / 20);
  const other = Float64Array.from({ length: TAPS }, (_, i) => Math.cos(i));
  fc.assert(
    fc.property(fc.float32Array({ min: -1, max: 1, noNaN: true, minLength: TAPS + 8, maxLength: 60 }), (input) => {
      let highest = Math.max(...input.map(Math.abs));
      for (let i = 0; i + TAPS <= input.length; i++) {
        for (const h of [one, other, one.toReversed(), other.toReversed()]) {
          highest = Math.max(highest, Math.abs(h.reduce((sum, value, k) => sum + value * input[i + k], 0)));
        }
      }
      expect(interpolatedPeakKernel([one, other])(input, 0)).toBeCloseTo(highest, 4);
    }),
  );
});

test('weighted energy: the compiled kernel gives the same bits as its twin, whatever the pieces', () => {
  const [{ b, a }, second] = kWeighting(44_100);
  const make = [weightedEnergyKernel, weightedEnergyTwin].map((kernel) => kernel([...b, ...a, ...second.a]));
  fc.assert(
    fc.property(fc.float32Array({ min: -1, max: 1, noNaN: true, maxLength: 300 }), (left) => {
      const right = left.toReversed();
      expect(make[0](left, right)).toEqual(make[1](left, right));
    }),
    { numRuns: 50 },
  );
});

test('interpolated peaks: the compiled kernel gives the same bits as its twin', () => {
  fc.assert(
    fc.property(
      fc.float32Array({ min: -2, max: 2, noNaN: true, minLength: TAPS, maxLength: 200 }),
      fc.tuple(phase, phase),
      fc.float({ min: 0, max: 4, noNaN: true }),
      (input, phases, peak) => {
        expect(interpolatedPeakKernel(phases)(input, peak)).toBe(interpolatedPeakTwin(phases)(input, peak));
      },
    ),
    { numRuns: 200 },
  );
});
