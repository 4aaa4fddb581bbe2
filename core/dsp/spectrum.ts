import { WINDOWS as AT_ONCE, type PowerKernel, powerKernel } from '../kernel/power.ts';
import { transformPlan } from './transform-plan.ts';

/** Frames of one window of the long-term spectrum. */
export const SPECTRUM_SIZE = 4096;

/** Windows as sums of cosines: coefficients of cos(2 pi k n / N), k = 0, 1, ... */
const WINDOWS = {
  hann: [0.5, -0.5],
  /** ISO 18431-2 (from memory): its main lobe is so wide and flat that every sine shows its level within 0.02 dB. */
  'flat-top': [1, -1.933, 1.286, -0.388, 0.0322],
} as const;

export type SpectrumWindow = keyof typeof WINDOWS;

/** A window of so many frames, zeros after it. */
function windowOf(shape: SpectrumWindow, length: number): Float32Array {
  const known = length === SPECTRUM_SIZE ? windows.get(shape) : undefined;
  if (known) return known;
  const window = new Float32Array(SPECTRUM_SIZE);
  for (let i = 0; i < length; i++) {
    const angle = (2 * Math.PI * (i + 0.5)) / length;
    window[i] = WINDOWS[shape].reduce((sum, share, k) => sum + share * Math.cos(k * angle), 0);
  }
  if (length === SPECTRUM_SIZE) windows.set(shape, window);
  return window;
}

/** Whole windows, made at first use. */
const windows = new Map<SpectrumWindow, Float32Array>();

/**
 * So many windows are taken one after the other, a multiple of those that are transformed at once; from then on one in
 * `SPARSE`, which stands for all of them: a long sound tells nearly the same.
 */
const DENSE_WINDOWS = 128;
const SPARSE = 8;

export interface SpectrumOptions {
  readonly window?: SpectrumWindow;
  /** True: windows overlap by half and none is left out, as in Welch's method; false: side by side, for speed. */
  readonly thorough?: boolean;
}

/** Channels that are looked at. */
const CHANNELS = 2;

/** Made at first use; every meter uses the same. */
let kernel: PowerKernel | undefined;

/**
 * Gathers the power of a sound by frequency, block by block: the mean of windows of 4 096 frames (P. D. Welch, "The Use of
 * Fast Fourier Transform for the Estimation of Power Spectra", IEEE Trans. AU-15, 1967). Of the first two channels the
 * powers are added.
 */
export class SpectrumMeter {
  private readonly shape: SpectrumWindow;
  private readonly thorough: boolean;
  /** Windows that wait for the others they are transformed with: those of the first channel, then of the second. */
  private readonly waiting = new Float32Array(CHANNELS * AT_ONCE * SPECTRUM_SIZE);
  /** How many are whole; the next is being filled. */
  private waitingCount = 0;
  private readonly power = new Float64Array(SPECTRUM_SIZE / 2 + 1);
  /** Power of windows of which each stands for `SPARSE`. */
  private readonly sparse = new Float64Array(SPECTRUM_SIZE / 2 + 1);
  private channelCount = 1;
  private filled = 0;
  private index = 0;
  private windows = 0;
  /** Frames of the last window: fewer than usual where the sound is shorter than one. */
  private lastLength = SPECTRUM_SIZE;

  constructor({ window = 'hann', thorough = false }: SpectrumOptions = {}) {
    this.shape = window;
    this.thorough = thorough;
  }

  add(channels: readonly Float32Array[]): void {
    const count = channels[0]?.length ?? 0;
    this.channelCount = Math.min(CHANNELS, Math.max(1, channels.length));
    for (let at = 0; at < count; ) {
      const take = Math.min(count - at, SPECTRUM_SIZE - this.filled);
      if (this.isWanted()) {
        for (let channel = 0; channel < this.channelCount; channel++) {
          this.waiting.set(channels[channel].subarray(at, at + take), this.placeOf(channel) + this.filled);
        }
      }
      this.filled += take;
      at += take;
      if (this.filled === SPECTRUM_SIZE) this.endWindow();
    }
  }

  /** Forgets everything, to begin with another sound. */
  clear(): void {
    this.power.fill(0);
    this.sparse.fill(0);
    this.filled = 0;
    this.index = 0;
    this.windows = 0;
    this.waitingCount = 0;
    this.lastLength = SPECTRUM_SIZE;
  }

  /** What comes next does not go on where the sound stopped: no window reaches over the gap. */
  gap(): void {
    if (this.index > 0) this.filled = 0;
  }

  private isWanted(): boolean {
    return this.thorough || this.index < DENSE_WINDOWS || this.index % SPARSE === 0;
  }

  /** Of the windows that have ended, whether the last ones stand for others. */
  private isSparse(): boolean {
    return !this.thorough && this.index > DENSE_WINDOWS;
  }

  /** Where the window of a channel is being filled. */
  private placeOf(channel: number): number {
    return (channel * AT_ONCE + this.waitingCount) * SPECTRUM_SIZE;
  }

  private endWindow(): void {
    const filled = this.filled;
    const isWanted = this.isWanted();
    this.index++;
    this.filled = 0;
    if (!isWanted) return;
    const places = Array.from({ length: this.channelCount }, (_, channel) => this.placeOf(channel));
    this.waitingCount++;
    this.windows += this.isSparse() ? SPARSE : 1;
    this.lastLength = filled;
    if (this.waitingCount === AT_ONCE) this.transform();
    if (this.thorough) {
      this.filled = SPECTRUM_SIZE / 2;
      places.forEach((place, channel) => {
        this.waiting.copyWithin(this.placeOf(channel), place + this.filled, place + SPECTRUM_SIZE);
      });
    }
  }

  /** Adds what waits to the power. */
  private transform(): void {
    kernel ??= powerKernel(transformPlan(SPECTRUM_SIZE));
    for (let channel = 0; channel < CHANNELS; channel++) {
      this.waiting.fill(0, this.placeOf(channel), (channel + 1) * AT_ONCE * SPECTRUM_SIZE);
    }
    // A sound that is shorter than a window gets a window of its own length.
    kernel(this.waiting, windowOf(this.shape, this.lastLength), this.isSparse() ? this.sparse : this.power);
    this.waitingCount = 0;
  }

  /** Power of each of the bins from 0 to half the rate, in arbitrary units. Takes the sound as ended. */
  result(): Float64Array {
    // What is left over at the end breaks off sharply: it counts only where there is nothing else.
    if (this.filled > 0 && this.index === 0) this.endWindow();
    if (this.waitingCount > 0) this.transform();
    this.sparse.forEach((value, k) => {
      this.power[k] += SPARSE * value;
    });
    this.sparse.fill(0);
    return this.power;
  }

  /**
   * Level of each bin in dB: a full-scale sine of one channel shows 0 dB at its frequency; of two channels the mean power
   * counts. -Infinity where there is nothing. Takes the sound as ended.
   */
  levels(): Float64Array {
    const power = this.result();
    // The window's mean is the part of a sine's amplitude that its bin shows; half of it lies at the mirrored frequency.
    const gain = (this.lastLength * WINDOWS[this.shape][0]) ** 2 * Math.max(1, this.windows) * this.channelCount;
    return power.map((value) => 10 * Math.log10((2 * value) / gain));
  }
}

/** Energy above `hz` relative to the whole, in dB; DC does not count. -Infinity if there is none. */
export function energyAbove(power: Float64Array, sampleRate: number, hz: number): number {
  const bin = sampleRate / SPECTRUM_SIZE;
  let whole = 0;
  let above = 0;
  for (let k = FIRST_BIN; k < power.length; k++) {
    whole += power[k];
    if ((k - 0.5) * bin >= hz) above += power[k];
  }
  return 10 * Math.log10(above / (whole || 1));
}

/** A window's main lobe spreads DC over the bins before this one. */
const FIRST_BIN = 3;

/** Energy above the bandwidth, relative to the whole. Common practice, no source: 16-bit noise lies lower. */
const BEYOND = 1e-7;

/** Energy beside DC below this, relative to the whole, is rounding. */
const ROUNDING = 1e-12;

/**
 * Highest frequency in Hz of which it matters: above it lies less than a ten-millionth (-70 dB) of the sound's energy. DC
 * does not count. Null for silence.
 */
export function bandwidthOf(power: Float64Array, sampleRate: number): number | null {
  let total = 0;
  for (let k = FIRST_BIN; k < power.length; k++) total += power[k];
  if (!(total > ROUNDING * (total + power[0] + power[1] + power[2]))) return null;
  let beyond = 0;
  for (let k = power.length - 1; k >= FIRST_BIN; k--) {
    beyond += power[k];
    if (beyond > total * BEYOND) return Math.min(sampleRate / 2, ((k + 1) * sampleRate) / SPECTRUM_SIZE);
  }
  return null;
}
