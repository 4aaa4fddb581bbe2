import { fromDb, steady } from '../numbers/index.ts';
import { besselI0, sinc } from './kaiser.ts';

/** Look-ahead, and the time in which two thirds of a reduction are given back. Common practice, no source. */
const LOOK_AHEAD_SECONDS = 0.005;
const RELEASE_SECONDS = 0.08;

/**
 * Between two samples a sound may be higher than at both. It is looked at in eighths, through sinc filters of so many samples to each
 * side under a Kaiser window: below 0.4 of the rate they err by less than 0.01 dB.
 */
const PHASES = 8;
const REACH = 16;
const KAISER_BETA = 7;
/** What is so much below the ceiling at every sample nearby is below it in between too, but for sounds that nobody has. */
const NEAR = 0.4;
/** What a gain that moves lets through beyond a ceiling of the true peak, made up for beforehand: 0.05 dB. */
const SPARE = fromDb(-0.05);

/** Taps of the filter for each place between two samples, from the oldest sample on. */
const BETWEEN = Array.from({ length: PHASES - 1 }, (_, phase) =>
  Float64Array.from({ length: 2 * REACH }, (__, tap) => {
    const away = tap - REACH + 1 - (phase + 1) / PHASES;
    const inside = Math.sqrt(Math.max(0, 1 - (away / REACH) ** 2));
    return steady((sinc(away) * besselI0(KAISER_BETA * inside)) / besselI0(KAISER_BETA));
  }),
);

/** -0.1 dB: what is changed less is not worth counting. */
const AUDIBLE = fromDb(-0.1);

/**
 * Holds the samples of all channels at or below a ceiling, block by block, without flattening them: the gain goes down
 * before a peak comes and slowly up again after it. All channels get the same gain; what stays below the ceiling for
 * long enough is passed on bit by bit. Nothing is delayed: `push` gives back less than it took, `finish` the rest.
 *
 * The gain a frame needs is min(1, ceiling / magnitude). Its smallest value among the next L frames is let up again
 * exponentially and then averaged over L frames, so that every frame's gain is at most what it needs.
 *
 * Where the ceiling is one of the true peak (ITU-R BS.1770), the magnitude of a frame is the highest up to the middle of it and its
 * neighbours, with what lies between samples.
 */
export class Limiter {
  private readonly ceiling: number;
  private readonly truePeak: number | null;
  /** Frames by which the magnitude of one is known later than the frame itself. */
  private readonly late: number;
  private readonly length: number;
  private readonly release: number;
  /** Frames that wait for what comes after them. */
  private waiting: Float32Array[] | null = null;
  /** Needed gains from the first waiting frame on; the smallest ahead are found among them. */
  private readonly needed: number[] = [];
  private readonly smallest: { readonly frame: number; readonly gain: number }[] = [];
  private readonly recent: Float64Array;
  private recentSum: number;
  private frame = 0;
  private released = 1;
  /** The lowest gain that was applied, linear. */
  lowestGain = 1;
  /** Frames that were made quieter by more than 0.1 dB. */
  limitedFrames = 0;

  /** @param truePeak ceiling of the true peak, linear; null if samples alone are held */
  constructor(ceiling: number, sampleRate: number, truePeak: number | null = null) {
    this.ceiling = ceiling;
    this.truePeak = truePeak === null ? null : truePeak * SPARE;
    this.late = truePeak === null ? 0 : REACH;
    this.length = Math.max(1, Math.round(LOOK_AHEAD_SECONDS * sampleRate));
    this.release = steady(1 - Math.exp(-1 / (RELEASE_SECONDS * sampleRate)));
    this.recent = new Float64Array(this.length).fill(1);
    this.recentSum = this.length;
  }

  push(channels: readonly Float32Array[]): Float32Array[] {
    const waiting = this.waiting ?? channels.map(() => new Float32Array(0));
    const joined = channels.map((samples, channel) => {
      const out = new Float32Array(waiting[channel].length + samples.length);
      out.set(waiting[channel]);
      out.set(samples, waiting[channel].length);
      return out;
    });
    const held = this.length + this.late;
    const ready = Math.max(0, joined[0].length - held);
    const out = joined.map(() => new Float32Array(ready));
    const known = waiting[0].length;
    for (let i = known; i < joined[0].length; i++) {
      if (i >= this.late) this.noteNeeded(joined, i - this.late);
      const at = i - held;
      if (at >= 0) this.apply(joined, out, at);
    }
    this.waiting = joined.map((samples) => samples.slice(ready));
    return out;
  }

  finish(): Float32Array[] {
    if (!this.waiting) return [];
    return this.push(this.waiting.map(() => new Float32Array(this.length + this.late)));
  }

  /** Notes the gain that a newly arrived frame needs. */
  private noteNeeded(channels: readonly Float32Array[], i: number): void {
    let magnitude = 0;
    for (const samples of channels) magnitude = Math.max(magnitude, Math.abs(samples[i]));
    let gain = magnitude > this.ceiling ? this.ceiling / magnitude : 1;
    if (this.truePeak !== null) {
      const between = this.highestAround(channels, i);
      if (between * gain > this.truePeak) gain = this.truePeak / between;
    }
    const smallest = this.smallest;
    while (smallest.length && smallest[smallest.length - 1].gain >= gain) smallest.pop();
    smallest.push({ frame: this.frame, gain });
    if (smallest[0].frame < this.frame - this.length) smallest.shift();
    this.frame++;
    // The smallest gain of this frame and the L before it, for the frame that comes out L later.
    const ahead = smallest[0].gain;
    this.released = Math.min(ahead, this.released + (1 - this.released) * this.release);
    const recent = this.recent;
    const slot = this.frame % this.length;
    this.recentSum += this.released - recent[slot];
    recent[slot] = this.released;
    this.needed.push(gain);
  }

  /** The highest magnitude from one frame before to one frame after, between samples too; 0 if that cannot matter. */
  private highestAround(channels: readonly Float32Array[], i: number): number {
    const ceiling = this.truePeak ?? 0;
    let highest = 0;
    for (const samples of channels) {
      for (const from of [i - 1, i]) {
        const near = Math.max(Math.abs(samples[from] ?? 0), Math.abs(samples[from + 1] ?? 0));
        highest = Math.max(highest, near);
        if (near < NEAR * ceiling) continue;
        for (const taps of BETWEEN) {
          let sum = 0;
          for (let tap = 0; tap < taps.length; tap++) sum += taps[tap] * (samples[from + tap - REACH + 1] ?? 0);
          highest = Math.max(highest, Math.abs(sum));
        }
      }
    }
    return highest;
  }

  private apply(channels: readonly Float32Array[], out: readonly Float32Array[], at: number): void {
    const needed = this.needed.shift() as number;
    const average = this.recentSum / this.length;
    // Sums of many numbers close to 1 err in the last digits: 1 stays 1, and no frame gets more than it needs.
    const gain = average > 1 - 1e-9 ? 1 : Math.min(average, needed);
    if (gain < 1) {
      if (gain < AUDIBLE) this.limitedFrames++;
      this.lowestGain = Math.min(this.lowestGain, gain);
    }
    for (let channel = 0; channel < out.length; channel++) {
      // Rounding may carry a peak over the ceiling by its last digit.
      out[channel][at] = Math.max(-this.ceiling, Math.min(this.ceiling, channels[channel][at] * gain));
    }
  }
}
