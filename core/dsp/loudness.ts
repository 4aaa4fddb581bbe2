import { type EnergyKernel, MOST_FRAMES, weightedEnergyKernel } from '../kernel/weighted-energy.ts';
import { type Biquad, steadyBiquad } from './filters.ts';
import { Resampler } from './resample.ts';

/**
 * Loudness as in ITU-R BS.1770-4, EBU R 128 and EBU Tech 3342 (from memory; checked against the signals of EBU Tech 3341 in the tests).
 * The two filters are given there for 48 000 Hz; for any rate they are made from the analogue prototypes that give those
 * numbers: a shelf of +4 dB above some 1 682 Hz and a high-pass at 38 Hz.
 */
const SHELF = { frequency: 1681.974450955533, gain: 3.999843853973347, q: 0.7071752369554196 };
const HIGH_PASS = { frequency: 38.13547087602444, q: 0.5003270373238773 };

/** The two filters of the K-weighting at `sampleRate` Hz. */
export function kWeighting(sampleRate: number): readonly [Biquad, Biquad] {
  const k = Math.tan((Math.PI * SHELF.frequency) / sampleRate);
  const high = 10 ** (SHELF.gain / 20);
  const band = high ** 0.4996667741545416;
  const scale = 1 + k / SHELF.q + k * k;
  const shelf: Biquad = {
    b: [
      (high + (band * k) / SHELF.q + k * k) / scale,
      (2 * (k * k - high)) / scale,
      (high - (band * k) / SHELF.q + k * k) / scale,
    ],
    a: [(2 * (k * k - 1)) / scale, (1 - k / SHELF.q + k * k) / scale],
  };
  const h = Math.tan((Math.PI * HIGH_PASS.frequency) / sampleRate);
  const under = 1 + h / HIGH_PASS.q + h * h;
  const highPass: Biquad = { b: [1, -2, 1], a: [(2 * (h * h - 1)) / under, (1 - h / HIGH_PASS.q + h * h) / under] };
  return [steadyBiquad(shelf), steadyBiquad(highPass)];
}

/** Gates, LUFS and LU. */
const ABSOLUTE_GATE = -70;
const RELATIVE_GATE = -10;
/** The measure is taken four times in each gating block of 400 ms. */
const STEPS_PER_SECOND = 10;
const STEPS_PER_BLOCK = 4;
/** Short-term loudness looks at 3 s. */
const STEPS_PER_SHORT_TERM = 30;
/** For the range, LU (EBU Tech 3342). */
const RANGE_GATE = -20;

/**
 * The shelf's corner lies near 1 700 Hz: below this rate the filters made for it lose their shape, and below twice the
 * corner they would not be filters any more. Such sounds are measured at a multiple of their rate.
 */
const LEAST_RATE = 12_000;
/**
 * Above this rate a sound holds what nobody hears, which the weighting would count: it is measured at the rate that the standard
 * gives its filters for.
 */
const MOST_RATE = 96_000;
const STANDARD_RATE = 48_000;
/** Nothing that is heard as sound has a lower rate, Hz: such a source is not measured. */
const LEAST_OF_SOUND = 1000;

/** Weights by channel: surrounds count more, the low-frequency channel does not (BS.1770-4, table 3). */
const WEIGHTS: Readonly<Record<number, readonly number[]>> = {
  5: [1, 1, 1, 1.41, 1.41],
  6: [1, 1, 1, 0, 1.41, 1.41],
};

/** LUFS of a mean square of weighted channels. */
const lufs = (power: number): number => -0.691 + 10 * Math.log10(power);

/** Gathers the loudness of a sound block by block. */
export class LoudnessMeter {
  private readonly sampleRate: number;
  private readonly weights: readonly number[];
  /** One for each two channels. */
  private readonly kernels: readonly EnergyKernel[];
  /** Weighted energy of each complete step. */
  private readonly steps: number[] = [];
  private energy = 0;
  private total = 0;
  private frames = 0;
  /** True for a rate at which there is no loudness to speak of: nothing is gathered, and every figure is null. */
  private readonly isTooSlow: boolean;
  /** For each channel, if it is measured at another rate; emptied when the sound has ended. */
  private resampling: readonly Resampler[] = [];

  constructor(rate: number, channelCount: number) {
    this.isTooSlow = rate < LEAST_OF_SOUND;
    const times = this.isTooSlow ? 1 : Math.ceil(LEAST_RATE / rate);
    const sampleRate = rate > MOST_RATE ? STANDARD_RATE : rate * times;
    if (sampleRate !== rate) {
      this.resampling = Array.from({ length: channelCount }, () => new Resampler(rate, sampleRate));
    }
    this.sampleRate = sampleRate;
    this.weights = WEIGHTS[channelCount] ?? new Array<number>(channelCount).fill(1);
    const [{ b, a }, second] = kWeighting(sampleRate);
    this.kernels = Array.from({ length: Math.ceil(channelCount / 2) }, () =>
      weightedEnergyKernel([...b, ...a, ...second.a]),
    );
  }

  /** The next frames: one array for each channel. */
  add(channels: readonly Float32Array[]): void {
    if (this.isTooSlow) return;
    this.measure(this.resampling.length ? channels.map((samples, i) => this.resampling[i].push(samples)) : channels);
  }

  /** Takes the sound as ended. */
  private end(): void {
    const rest = this.resampling.map((resampler) => resampler.finish());
    this.resampling = [];
    if (rest.length) this.measure(rest);
  }

  private measure(channels: readonly Float32Array[]): void {
    const count = channels[0]?.length ?? 0;
    for (let at = 0; at < count; ) {
      // Steps end at whole frames, also where their length is none.
      const stepEnd = Math.round(((this.steps.length + 1) * this.sampleRate) / STEPS_PER_SECOND);
      const end = Math.min(count, at + Math.min(MOST_FRAMES, stepEnd - this.frames));
      const energy = this.energyOf(channels, at, end);
      this.energy += energy;
      this.total += energy;
      this.frames += end - at;
      at = end;
      if (this.frames === stepEnd) {
        this.steps.push(this.energy);
        this.energy = 0;
      }
    }
  }

  /** Weighted energy of all channels between two frames after both filters. */
  private energyOf(channels: readonly Float32Array[], from: number, to: number): number {
    let energy = 0;
    this.kernels.forEach((kernel, pair) => {
      const left = channels[2 * pair].subarray(from, to);
      const other = channels[2 * pair + 1];
      const [first, second] = kernel(left, other ? other.subarray(from, to) : left);
      energy += this.weights[2 * pair] * first;
      if (other) energy += this.weights[2 * pair + 1] * second;
    });
    return energy;
  }

  /**
   * Integrated loudness in LUFS. A sound shorter than one gating block of 400 ms is measured as a whole, without gates.
   * Null if nothing passes the gates: silence, and rates that are none of sound. Takes the sound as ended, like the
   * two below.
   */
  integrated(): number | null {
    const powers = this.powers(STEPS_PER_BLOCK);
    if (powers.length === 0) {
      const whole = lufs(this.total / Math.max(1, this.frames));
      return whole > ABSOLUTE_GATE ? whole : null;
    }
    const loud = powers.filter((power) => lufs(power) > ABSOLUTE_GATE);
    if (loud.length === 0) return null;
    const gate = lufs(mean(loud)) + RELATIVE_GATE;
    return lufs(mean(loud.filter((power) => lufs(power) > gate)));
  }

  /** Mean squares of all windows of so many steps, one for each step that ends one. Takes the sound as ended. */
  private powers(length: number): number[] {
    this.end();
    const frames = (length * this.sampleRate) / STEPS_PER_SECOND;
    const powers: number[] = [];
    for (let i = length; i <= this.steps.length; i++) {
      let energy = 0;
      for (let k = i - length; k < i; k++) energy += this.steps[k];
      powers.push(energy / frames);
    }
    return powers;
  }

  /** The highest short-term loudness (3 s, looked at ten times a second), LUFS. Null for what is shorter, or silent. */
  loudestTerm(): number | null {
    const powers = this.powers(STEPS_PER_SHORT_TERM);
    const loudest = lufs(powers.reduce((most, power) => Math.max(most, power), 0));
    return loudest > ABSOLUTE_GATE ? loudest : null;
  }

  /**
   * Loudness range in LU (EBU Tech 3342): the distance between the 10th and the 95th percentile of the short-term
   * loudness, of what is not silent and not more than 20 LU below the rest. Null for what is shorter than 3 s, or silent.
   */
  range(): number | null {
    const loud = this.powers(STEPS_PER_SHORT_TERM).filter((power) => lufs(power) > ABSOLUTE_GATE);
    if (loud.length === 0) return null;
    const gate = lufs(mean(loud)) + RANGE_GATE;
    const sorted = loud
      .map(lufs)
      .filter((value) => value > gate)
      .sort((a, b) => a - b);
    const at = (share: number) => sorted[Math.round(share * (sorted.length - 1))];
    return at(0.95) - at(0.1);
  }
}

const mean = (values: readonly number[]): number => values.reduce((sum, value) => sum + value, 0) / values.length;
