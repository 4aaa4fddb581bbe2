import { framesAtRate } from '../audio/index.ts';
import { besselI0, kaiserBeta, kaiserLength, sinc } from './kaiser.ts';
import { type PolyphaseFilter, type PolyphaseKernel, polyphaseKernel } from './kernel/polyphase.ts';

/** What the resampling filter promises. */
export interface ResampleQuality {
  /** End of the pass band, as a part of the lower Nyquist frequency. */
  readonly passBand: number;
  /** Attenuation from the lower Nyquist frequency upward, in dB. */
  readonly attenuation: number;
}

/** Pass band to 0.913 of the lower Nyquist frequency, 120 dB down from that frequency upward. */
export const STANDARD_QUALITY: ResampleQuality = { passBand: 0.913, attenuation: 120 };

/**
 * Coefficients are rounded to this grid (-168 dB) before they are stored with 32 bits, so that engines whose sine differs
 * in the last binary digit still give the same filter, and with it the same bytes.
 */
const COEFFICIENT_GRID = 2 ** 28;

/** Rates up to this many Hz, and a ratio of at most this many to one, are accepted. */
export const MAX_RATE = 768_000;
export const MAX_RATIO = 256;

/** Largest common divisor of two positive whole numbers. */
export const greatestCommonDivisor = (a: number, b: number): number => (b === 0 ? a : greatestCommonDivisor(b, a % b));

/**
 * Windowed-sinc polyphase filter from `from` to `to` Hz (whole numbers). Cut-off in the middle of the transition band,
 * Kaiser window, every row normalised to unit gain at DC. Row p serves outputs that fall p / phases after an input.
 */
export function designFilter(from: number, to: number, quality = STANDARD_QUALITY): PolyphaseFilter {
  const divisor = greatestCommonDivisor(from, to);
  const phases = to / divisor;
  const step = from / divisor;
  const nyquist = Math.min(from, to) / 2;
  const cutoff = (nyquist * (1 + quality.passBand)) / 2 / from;
  const width = (nyquist * (1 - quality.passBand)) / from;
  const half = 8 * Math.ceil(kaiserLength(quality.attenuation, width) / 16);
  const taps = 2 * half;
  const beta = kaiserBeta(quality.attenuation);
  const peak = besselI0(beta);
  const coefficients = new Float32Array(phases * taps);
  for (let phase = 0; phase < phases; phase++) {
    const row = new Float64Array(taps);
    let sum = 0;
    for (let tap = 0; tap < taps; tap++) {
      const t = tap - half + 1 - phase / phases;
      const place = t / half;
      const window = Math.abs(place) >= 1 ? 0 : besselI0(beta * Math.sqrt(1 - place * place)) / peak;
      row[tap] = sinc(2 * cutoff * t) * window;
      sum += row[tap];
    }
    for (let tap = 0; tap < taps; tap++) {
      coefficients[phase * taps + tap] = Math.round((row[tap] / sum) * COEFFICIENT_GRID) / COEFFICIENT_GRID;
    }
  }
  return { taps, phases, step, coefficients };
}

/** Outputs made in one call of the kernel. */
const BLOCK = 4096;

interface Design {
  readonly filter: PolyphaseFilter;
  readonly kernel: PolyphaseKernel;
}

/** The designs used last, newest at the end: a preview renders the same ratio again and again. */
const designs = new Map<string, Design>();
const DESIGNS_KEPT = 4;

function designFor(from: number, to: number): Design {
  const key = `${from}:${to}`;
  let design = designs.get(key);
  if (!design) {
    const filter = designFilter(from, to);
    design = { filter, kernel: polyphaseKernel(filter, maxBlockInput(filter), BLOCK) };
  }
  designs.delete(key);
  designs.set(key, design);
  if (designs.size > DESIGNS_KEPT) designs.delete(designs.keys().next().value as string);
  return design;
}

const maxBlockInput = (filter: PolyphaseFilter): number =>
  filter.taps + Math.ceil(((BLOCK + 1) * filter.step) / filter.phases) + 1;

/**
 * Changes the rate of one channel, block by block, with memory that does not depend on its length. Linear phase, its
 * delay removed: output frame n stands at the time n / to. The whole output has round(input frames x to / from) frames.
 */
export class Resampler {
  private readonly design: Design | null;
  private readonly from: number;
  private readonly to: number;
  /** Input not yet used up; `pending[0]` meets the first tap of the next output. */
  private pending: Float32Array;
  private held: number;
  private phase = 0;
  private taken = 0;
  private given = 0;

  /** @throws RangeError for rates that are not whole numbers in 1..768 000 or more than 256 : 1 apart. */
  constructor(from: number, to: number) {
    for (const rate of [from, to]) {
      if (!Number.isInteger(rate) || rate < 1 || rate > MAX_RATE) throw new RangeError(`not a usable rate: ${rate} Hz`);
    }
    if (Math.max(from / to, to / from) > MAX_RATIO) throw new RangeError(`${from} and ${to} Hz are too far apart`);
    this.from = from;
    this.to = to;
    this.design = from === to ? null : designFor(from, to);
    this.held = this.design ? this.design.filter.taps / 2 - 1 : 0;
    this.pending = new Float32Array(this.design ? maxBlockInput(this.design.filter) : 0);
  }

  /** Takes the next input frames and returns the output frames that they complete. */
  push(input: Float32Array): Float32Array {
    this.taken += input.length;
    return this.design ? this.run(this.design, input, Number.POSITIVE_INFINITY) : input;
  }

  /** Ends the input and returns the rest of the output. */
  finish(): Float32Array {
    if (!this.design) return new Float32Array(0);
    const left = framesAtRate(this.taken, this.from, this.to) - this.given;
    return this.run(this.design, new Float32Array(this.design.filter.taps + this.design.filter.step), left);
  }

  private run({ filter, kernel }: Design, input: Float32Array, limit: number): Float32Array {
    const { taps, phases, step } = filter;
    this.makeRoom(this.held + input.length);
    this.pending.set(input, this.held);
    this.held += input.length;
    const ready = Math.floor(((this.held - taps) * phases + phases - 1 - this.phase) / step) + 1;
    const total = Math.max(0, Math.min(limit, ready));
    const output = new Float32Array(total);
    const made = new Float32Array(Math.min(total, BLOCK));
    let used = 0;
    for (let done = 0; done < total; ) {
      const count = Math.min(BLOCK, total - done);
      const reach = Math.floor((this.phase + (count - 1) * step) / phases) + taps;
      kernel(this.pending.subarray(used, used + reach), made, count, this.phase);
      output.set(count === made.length ? made : made.subarray(0, count), done);
      const next = this.phase + count * step;
      used += Math.floor(next / phases);
      this.phase = next % phases;
      done += count;
    }
    this.pending.copyWithin(0, used, this.held);
    this.held -= used;
    this.given += total;
    return output;
  }

  private makeRoom(length: number): void {
    if (length <= this.pending.length) return;
    const larger = new Float32Array(length + this.design!.filter.taps);
    larger.set(this.pending.subarray(0, this.held));
    this.pending = larger;
  }
}

/** A whole channel at another rate. */
export function resample(samples: Float32Array, from: number, to: number): Float32Array {
  const resampler = new Resampler(from, to);
  const body = resampler.push(samples);
  const tail = resampler.finish();
  const out = new Float32Array(body.length + tail.length);
  out.set(body);
  out.set(tail, body.length);
  return out;
}
