/** Frames of one window of the long-term spectrum. */
export const SPECTRUM_SIZE = 4096;

/**
 * In-place complex Fourier transform of a power-of-two length: radix 2, decimation in time (Cooley and Tukey, textbook
 * form). Not scaled.
 */
export function fft(re: Float64Array, im: Float64Array): void {
  const n = re.length;
  for (let i = 1, j = 0; i < n; i++) {
    let bit = n >> 1;
    for (; j & bit; bit >>= 1) j ^= bit;
    j ^= bit;
    if (i < j) {
      const x = re[i];
      const y = im[i];
      re[i] = re[j];
      im[i] = im[j];
      re[j] = x;
      im[j] = y;
    }
  }
  for (let size = 2; size <= n; size *= 2) {
    butterflies(re, im, size, twiddles(size));
  }
}

interface Twiddles {
  readonly cos: Float64Array;
  readonly sin: Float64Array;
}

/** One stage of the transform. */
function butterflies(re: Float64Array, im: Float64Array, size: number, { cos, sin }: Twiddles): void {
  const half = size / 2;
  for (let start = 0; start < re.length; start += size) {
    for (let k = 0; k < half; k++) {
      const a = start + k;
      const b = a + half;
      const c = cos[k];
      const s = sin[k];
      const x = re[b] * c - im[b] * s;
      const y = re[b] * s + im[b] * c;
      re[b] = re[a] - x;
      im[b] = im[a] - y;
      re[a] += x;
      im[a] += y;
    }
  }
}

const tables = new Map<number, Twiddles>();

function twiddles(size: number): Twiddles {
  const known = tables.get(size);
  if (known) return known;
  const angle = (k: number) => (-2 * Math.PI * k) / size;
  const made = {
    cos: Float64Array.from({ length: size / 2 }, (_, k) => Math.cos(angle(k))),
    sin: Float64Array.from({ length: size / 2 }, (_, k) => Math.sin(angle(k))),
  };
  tables.set(size, made);
  return made;
}

/** Windows as sums of cosines: coefficients of cos(2 pi k n / N), k = 0, 1, ... */
const WINDOWS = {
  hann: [0.5, -0.5],
  /** ISO 18431-2 (from memory): its main lobe is so wide and flat that every sine shows its level within 0.02 dB. */
  'flat-top': [1, -1.933, 1.286, -0.388, 0.0322],
} as const;

export type SpectrumWindow = keyof typeof WINDOWS;

const windowOf = (shape: SpectrumWindow, length: number) =>
  Float64Array.from({ length }, (_, i) =>
    WINDOWS[shape].reduce((sum, share, k) => sum + share * Math.cos((2 * Math.PI * k * (i + 0.5)) / length), 0),
  );

/** So many windows are taken one after the other; from then on one in `SPARSE`: a long sound tells the same. */
const DENSE_WINDOWS = 128;
const SPARSE = 64;

export interface SpectrumOptions {
  readonly window?: SpectrumWindow;
  /** True: windows overlap by half and none is left out, as in Welch's method; false: side by side, for speed. */
  readonly thorough?: boolean;
}

/**
 * Gathers the power of a sound by frequency, block by block: the mean of windows of 4 096 frames (P. D. Welch, "The Use of
 * Fast Fourier Transform for the Estimation of Power Spectra", IEEE Trans. AU-15, 1967). Of the first two channels the
 * powers are added.
 */
export class SpectrumMeter {
  private readonly window: Float64Array;
  private readonly shape: SpectrumWindow;
  private readonly thorough: boolean;
  /** The window's frames of the first two channels. */
  private readonly sound = [new Float64Array(SPECTRUM_SIZE), new Float64Array(SPECTRUM_SIZE)] as const;
  private readonly re = new Float64Array(SPECTRUM_SIZE);
  private readonly im = new Float64Array(SPECTRUM_SIZE);
  private readonly power = new Float64Array(SPECTRUM_SIZE / 2 + 1);
  private channelCount = 1;
  private filled = 0;
  private index = 0;
  private windows = 0;
  /** Frames of the last window: fewer than usual where the sound is shorter than one. */
  private lastLength = SPECTRUM_SIZE;

  constructor({ window = 'hann', thorough = false }: SpectrumOptions = {}) {
    this.shape = window;
    this.window = windowOf(window, SPECTRUM_SIZE);
    this.thorough = thorough;
  }

  add(channels: readonly Float32Array[]): void {
    const count = channels[0]?.length ?? 0;
    this.channelCount = Math.min(2, Math.max(1, channels.length));
    for (let at = 0; at < count; ) {
      const take = Math.min(count - at, SPECTRUM_SIZE - this.filled);
      if (this.isWanted()) {
        this.sound.forEach((kept, channel) => {
          if (channels[channel]) kept.set(channels[channel].subarray(at, at + take), this.filled);
        });
      }
      this.filled += take;
      at += take;
      if (this.filled === SPECTRUM_SIZE) this.endWindow();
    }
  }

  /** What comes next does not go on where the sound stopped: no window reaches over the gap. */
  gap(): void {
    if (this.index > 0) this.filled = 0;
  }

  private isWanted(): boolean {
    return this.thorough || this.index < DENSE_WINDOWS || this.index % SPARSE === 0;
  }

  private endWindow(): void {
    if (this.isWanted()) {
      const re = this.re;
      const im = this.im;
      const power = this.power;
      const [left, right] = this.sound;
      // A sound that is shorter than a window gets a window of its own length.
      const window = this.filled === SPECTRUM_SIZE ? this.window : windowOf(this.shape, this.filled);
      re.fill(0);
      im.fill(0);
      for (let i = 0; i < this.filled; i++) {
        re[i] = left[i] * window[i];
        im[i] = right[i] * window[i];
      }
      fft(re, im);
      // Two real signals in one transform: the powers at k and -k together are those of both.
      power[0] += re[0] ** 2 + im[0] ** 2;
      for (let k = 1; k <= SPECTRUM_SIZE / 2; k++) {
        const mirror = SPECTRUM_SIZE - k;
        power[k] += re[k] ** 2 + im[k] ** 2 + re[mirror] ** 2 + im[mirror] ** 2;
      }
      this.windows++;
      this.lastLength = this.filled;
    }
    this.index++;
    this.filled = 0;
    if (this.thorough) {
      this.filled = SPECTRUM_SIZE / 2;
      for (const kept of this.sound) kept.copyWithin(0, this.filled);
    }
  }

  /** Power of each of the bins from 0 to half the rate, in arbitrary units. Takes the sound as ended. */
  result(): Float64Array {
    // What is left over at the end breaks off sharply: it counts only where there is nothing else.
    if (this.filled > 0 && this.index === 0) this.endWindow();
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

/** Energy above `hz` relative to the whole, in dB; DC does not count. -Infinity where there is none. */
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
