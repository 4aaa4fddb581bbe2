import { LRUCache } from 'lru-cache';
import {
  type Fraction,
  fractionOf,
  framesAtRate,
  greatestCommonDivisor,
  joined,
  type Rate,
  steady,
} from '../audio/index.ts';
import { type PolyphaseFilter, type PolyphaseKernel, polyphaseKernel } from '../kernel/polyphase.ts';
import { besselI0, kaiserBeta, kaiserLength, sinc } from './kaiser.ts';

/** What the resampling filter promises. */
export interface ResampleQuality {
  /** End of the pass band, as a part of the lower Nyquist frequency. */
  readonly passBand: number;
  /** Attenuation from the lower Nyquist frequency upward, in dB. */
  readonly attenuation: number;
}

/** By name: what is delivered, and what is good enough for a quick look and takes a third of the work. */
export const QUALITIES = {
  standard: { passBand: 0.913, attenuation: 120 },
  draft: { passBand: 0.8, attenuation: 80 },
} as const satisfies Record<string, ResampleQuality>;

/** Coefficients are rounded to this grid (-168 dB) before they are stored with 32 bits. */
const COEFFICIENT_STEP = 2 ** -28;

/** Rates up to this many Hz can be asked for, and a ratio of at most this many to one is accepted. */
export const MAX_RATE = 768_000;
export const MAX_RATIO = 256;

/**
 * Phases for one cycle of the lower Nyquist frequency beyond which rows are interpolated: weighing two rows so close
 * errs by (pi / rows)^2 / 8 at most, -142 dB.
 */
const ROWS = 4096;

/** Output frames / input frames, in lowest terms: `of` phases for each input frame, of which an output takes `by`. */
export function ratioOf(from: Rate, to: Rate): Fraction {
  const a = fractionOf(from);
  const b = fractionOf(to);
  const of = b.of * a.by;
  const by = a.of * b.by;
  const divisor = greatestCommonDivisor(of, by);
  return { of: of / divisor, by: by / divisor };
}

/**
 * Windowed-sinc polyphase filter: `phases` places between two inputs, of which outputs take every `step`th. Cut-off in the
 * middle of the transition band, Kaiser window, every row normalised to unit gain at DC. Row p serves outputs that fall
 * p / rows after an input.
 * @param band end of the pass band and start of the stop band, in cycles per input frame
 */
function windowedSinc(
  band: { readonly end: number; readonly stop: number },
  attenuation: number,
  phases: number,
  step: number,
  rows: number,
): PolyphaseFilter {
  const cutoff = (band.end + band.stop) / 2;
  const half = 8 * Math.ceil(kaiserLength(attenuation, band.stop - band.end) / 16);
  const taps = 2 * half;
  const beta = kaiserBeta(attenuation);
  const peak = besselI0(beta);
  const count = rows < phases ? rows + 1 : rows;
  const coefficients = new Float32Array(count * taps);
  const row = new Float64Array(taps);
  for (let index = 0; index < count; index++) {
    let sum = 0;
    for (let tap = 0; tap < taps; tap++) {
      const t = tap - half + 1 - index / rows;
      const place = t / half;
      const window = Math.abs(place) >= 1 ? 0 : besselI0(beta * Math.sqrt(1 - place * place)) / peak;
      row[tap] = sinc(2 * cutoff * t) * window;
      sum += row[tap];
    }
    for (let tap = 0; tap < taps; tap++) {
      coefficients[index * taps + tap] = steady(row[tap] / sum, COEFFICIENT_STEP);
    }
  }
  return { taps, phases, step, rows, coefficients };
}

/** The filter from `from` to `to` Hz in one stage; beyond `mostRows` phases rows are weighed against each other. */
export function designFilter(
  from: Rate,
  to: Rate,
  quality: ResampleQuality = QUALITIES.standard,
  mostRows: number = ROWS,
): PolyphaseFilter {
  const { of: phases, by: step } = ratioOf(from, to);
  const down = Math.max(1, step / phases);
  const stop = 0.5 / down;
  const rows = Math.min(phases, Math.ceil(mostRows / down));
  return windowedSinc({ end: stop * quality.passBand, stop }, quality.attenuation, phases, step, rows);
}

/** A first stage that only takes one of every so many frames, with a filter that is short because it may be soft. */
interface Decimation {
  readonly factor: number;
  readonly filter: PolyphaseFilter;
}

/** The first of two stages adds its own remainder, so it is held lower by so many dB. */
const FIRST_STAGE_MARGIN = 6;
const LARGEST_FACTOR = 64;

/** Multiplications for one input frame of the filter from 1 to `ratio`. */
const workOf = (ratio: number, { passBand, attenuation }: ResampleQuality): number =>
  kaiserLength(attenuation, 0.5 * Math.min(1, ratio) * (1 - passBand)) * ratio;

/** Taps of a first stage by `factor`: everything is kept up to the new Nyquist frequency, nothing folds back below it. */
function firstStageTaps(factor: number, ratio: number, attenuation: number): number {
  const nyquist = ratio / 2;
  const width = 1 / factor - 2 * nyquist;
  return width > 0 ? kaiserLength(attenuation + FIRST_STAGE_MARGIN, width) : Number.POSITIVE_INFINITY;
}

/** The first stage that saves most work at `ratio` = new rate / old rate, or null where one stage alone is best. */
function firstStage(ratio: number, quality: ResampleQuality): Decimation | null {
  let least = 0.8 * workOf(ratio, quality);
  let factor = 1;
  for (let tried = 2; tried <= Math.min(LARGEST_FACTOR, 1 / ratio); tried++) {
    const work = firstStageTaps(tried, ratio, quality.attenuation) / tried + workOf(ratio * tried, quality) / tried;
    if (work < least) {
      least = work;
      factor = tried;
    }
  }
  if (factor === 1) return null;
  const nyquist = ratio / 2;
  const pass = { end: nyquist, stop: 1 / factor - nyquist };
  return { factor, filter: windowedSinc(pass, quality.attenuation + FIRST_STAGE_MARGIN, 1, factor, 1) };
}

/** Outputs made in one call of the kernel. */
const BLOCK = 4096;

interface Stage {
  readonly filter: PolyphaseFilter;
  readonly kernel: PolyphaseKernel;
}

const stageOf = (filter: PolyphaseFilter): Stage => ({
  filter,
  kernel: polyphaseKernel(filter, maxBlockInput(filter), BLOCK),
});

const maxBlockInput = (filter: PolyphaseFilter): number =>
  filter.taps + Math.ceil(((BLOCK + 1) * filter.step) / filter.phases) + 1;

interface Design {
  readonly first: (Stage & { readonly factor: number }) | null;
  readonly last: Stage;
}

function designOf(from: Rate, to: Rate, quality: ResampleQuality): Design {
  const { of, by } = ratioOf(from, to);
  const first = firstStage(of / by, quality);
  if (!first) return { first: null, last: stageOf(designFilter(from, to, quality)) };
  const { of: clock, by: divider } = fractionOf(from);
  const between: Fraction = { of: clock, by: divider * first.factor };
  return {
    first: { factor: first.factor, ...stageOf(first.filter) },
    last: stageOf(designFilter(between, to, quality)),
  };
}

/** The designs used last: a preview renders the same ratio again and again. */
const designs = new LRUCache<string, Design>({ max: 4 });

function designFor(from: Rate, to: Rate, quality: ResampleQuality): Design {
  const { of, by } = ratioOf(from, to);
  const key = [of, by, quality.passBand, quality.attenuation].join(' ');
  const design = designs.get(key) ?? designOf(from, to, quality);
  designs.set(key, design);
  return design;
}

/** One stage at work: input comes in, as much output as it completes goes out. */
class StageProcess {
  private readonly stage: Stage;
  /** Input not yet used up; `pending[0]` meets the first tap of the next output. */
  private pending: Float32Array;
  private buffered: number;
  private phase = 0;

  /** @param zeros frames of silence at the start of the input */
  constructor(stage: Stage, zeros: number) {
    this.stage = stage;
    this.buffered = zeros;
    this.pending = new Float32Array(Math.max(zeros, maxBlockInput(stage.filter)));
  }

  push(input: Float32Array, limit = Number.POSITIVE_INFINITY): Float32Array {
    const { filter, kernel } = this.stage;
    const { taps, phases, step } = filter;
    this.makeRoom(this.buffered + input.length);
    this.pending.set(input, this.buffered);
    this.buffered += input.length;
    const ready = Math.floor(((this.buffered - taps) * phases + phases - 1 - this.phase) / step) + 1;
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
    // No step is longer than its filter, so that the next output never begins beyond what has come.
    this.pending.copyWithin(0, used, this.buffered);
    this.buffered -= used;
    return output;
  }

  /** So much silence ends the input that every frame of it has been used. */
  ending(limit?: number): Float32Array {
    const { taps, phases, step } = this.stage.filter;
    return this.push(new Float32Array(taps + Math.ceil(step / phases)), limit);
  }

  private makeRoom(length: number): void {
    if (length <= this.pending.length) return;
    const larger = new Float32Array(length + this.stage.filter.taps);
    larger.set(this.pending.subarray(0, this.buffered));
    this.pending = larger;
  }
}

/**
 * Changes the rate of one channel, block by block, with memory that does not depend on its length. Linear phase, its
 * delay removed: output frame n stands at the time n / to. The whole output has round(input frames x to / from) frames.
 * What lies before and after the input counts as silence. Far down, a soft first stage takes one of every few frames,
 * which saves more than half of the work; its output begins as far before the input's start as its filter reaches.
 */
export class Resampler {
  private readonly first: StageProcess | null = null;
  private readonly last: StageProcess | null = null;
  private readonly from: Rate;
  private readonly to: Rate;
  private taken = 0;
  private given = 0;

  /** @throws RangeError for what is not a rate, and for rates more than 256 : 1 apart. */
  constructor(from: Rate, to: Rate, quality: ResampleQuality = QUALITIES.standard) {
    const { of, by } = ratioOf(from, to);
    if (Math.max(of / by, by / of) > MAX_RATIO) throw new RangeError(`${from} and ${to} Hz are too far apart`);
    this.from = from;
    this.to = to;
    if (of === by) return;
    const { first, last } = designFor(from, to, quality);
    const reach = last.filter.taps / 2 - 1;
    if (first) {
      const half = first.filter.taps / 2;
      const before = Math.min(reach, Math.ceil(half / first.factor));
      this.first = new StageProcess(first, half - 1 + before * first.factor);
      this.last = new StageProcess(last, reach - before);
    } else this.last = new StageProcess(last, reach);
  }

  /** Takes the next input frames and returns the output frames that they complete. */
  push(input: Float32Array): Float32Array {
    this.taken += input.length;
    if (!this.last) return input;
    return this.give(this.last.push(this.first ? this.first.push(input) : input));
  }

  /** Ends the input and returns the rest of the output. */
  finish(): Float32Array {
    if (!this.last) return new Float32Array(0);
    const left = framesAtRate(this.taken, this.from, this.to) - this.given;
    const ending = this.first ? this.last.push(this.first.ending(), left) : new Float32Array(0);
    const rest = this.last.ending(left - ending.length);
    return this.give(joined(ending, rest));
  }

  private give(output: Float32Array): Float32Array {
    this.given += output.length;
    return output;
  }
}

/** A whole channel at another rate. */
export function resample(
  samples: Float32Array,
  from: Rate,
  to: Rate,
  quality: ResampleQuality = QUALITIES.standard,
): Float32Array {
  const resampler = new Resampler(from, to, quality);
  return joined(resampler.push(samples), resampler.finish());
}
