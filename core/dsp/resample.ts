import { LRUCache } from 'lru-cache';
import { type Fraction, framesAtRate, type Rate } from '../numbers/index.ts';
import { blockStep } from './block-step.ts';
import { kaiserLength } from './kaiser.ts';
import { designFilter, polyphaseStep, windowedSinc } from './polyphase-step.ts';
import { lowest, QUALITIES, type RateProcess, type RateStep, type ResampleQuality, ratioOf } from './rate-step.ts';

export { QUALITIES, type ResampleQuality } from './rate-step.ts';

/** Rates up to this many Hz can be asked for, and a ratio of at most this many to one is accepted. */
export const MAX_RATE = 768_000;
export const MAX_RATIO = 256;

/** A step of two adds its own remainder, and the formulas promise a little too much: held lower by so many dB. */
const MARGIN = 6;
/** A soft filter is so short that images can be held lower still, below what rounding leaves. */
const SOFT_MARGIN = 30;

/** Sounds of fewer frames, at the higher rate, are converted output by output: eight blocks are more than they need. */
const SHORT = 44_100;

/** Multiplications for one input frame of the filter from 1 to `ratio`. */
const workOf = (ratio: number, { passBand, attenuation }: ResampleQuality): number =>
  kaiserLength(attenuation, 0.5 * Math.min(1, ratio) * (1 - passBand)) * ratio;

/** Taps of a first step by `factor`: everything is kept up to the new Nyquist frequency, nothing folds back below it. */
function firstStepTaps(factor: number, ratio: number, attenuation: number): number {
  const width = 1 / factor - ratio;
  return width > 0 ? kaiserLength(attenuation + MARGIN, width) : Number.POSITIVE_INFINITY;
}

const LARGEST_FACTOR = 64;

/**
 * Output by output, by polyphase filters. Far down, a soft first step takes one of every few frames, which saves more than
 * half of the work.
 */
function outputByOutput(ratio: Fraction, quality: ResampleQuality): readonly RateStep[] {
  const times = ratio.of / ratio.by;
  let least = 0.8 * workOf(times, quality);
  let factor = 1;
  for (let tried = 2; tried <= Math.min(LARGEST_FACTOR, 1 / times); tried++) {
    const work = firstStepTaps(tried, times, quality.attenuation) / tried + workOf(times * tried, quality) / tried;
    if (work < least) {
      least = work;
      factor = tried;
    }
  }
  if (factor === 1) return [polyphaseStep(designFilter(ratio, quality))];
  const band = { end: times / 2, stop: 1 / factor - times / 2 };
  const first = windowedSinc(band, quality.attenuation + MARGIN, { phases: 1, step: factor, rows: 1 });
  const rest = lowest({ of: ratio.of * factor, by: ratio.by });
  return [polyphaseStep(first), polyphaseStep(designFilter(rest, quality))];
}

/** Between two places of the middle rate, weighing rows this close errs by -142 dB at most: see `ROWS`. */
const SOFT_ROWS = 2048;

/** The lowest simple ratio that is not below `least`. */
function middleFor(least: number): Fraction {
  const ratios = [1, 2, 3, 4, 5, 6, 7, 8].map((by) => ({ of: Math.ceil(least * by), by }));
  return lowest(ratios.reduce((best, ratio) => (ratio.of / ratio.by < best.of / best.by ? ratio : best)));
}

/**
 * In blocks, or null if the rates are too far apart for that. Where their ratio is no product of small primes, blocks
 * go to a rate near twice the lower one, where a short soft filter finds what is between.
 */
function inBlocks(ratio: Fraction, { passBand, attenuation }: ResampleQuality): readonly RateStep[] | null {
  const times = ratio.of / ratio.by;
  const stop = Math.min(1, times) / 2;
  const band = { end: stop * passBand, stop };
  const alone = blockStep(ratio, band, attenuation + MARGIN);
  if (alone) return [alone];
  const middle = middleFor(2 * Math.min(1, times));
  const first = blockStep(middle, band, attenuation + MARGIN);
  if (!first) return null;
  const rest = lowest({ of: ratio.of * middle.by, by: ratio.by * middle.of });
  const soft = { end: (stop * middle.by) / middle.of, stop: 1 - (stop * middle.by) / middle.of };
  const rows = Math.min(rest.of, SOFT_ROWS);
  const last = windowedSinc(soft, attenuation + SOFT_MARGIN, { phases: rest.of, step: rest.by, rows });
  return [first, polyphaseStep(last)];
}

/** The steps used last: a preview renders the same ratio again and again. */
const designs = new LRUCache<string, readonly RateStep[]>({ max: 6 });

function stepsFor(ratio: Fraction, quality: ResampleQuality, isShort: boolean): readonly RateStep[] {
  const key = [ratio.of, ratio.by, quality.passBand, quality.attenuation, isShort].join(' ');
  const steps = designs.get(key) ?? ((!isShort && inBlocks(ratio, quality)) || outputByOutput(ratio, quality));
  designs.set(key, steps);
  return steps;
}

/** Options of a conversion. */
export interface ResampleWish {
  readonly quality?: ResampleQuality;
  /** Length of the sound, if it is known; a part of it is converted as the whole is where this is that of the whole. */
  readonly frames?: number;
}

/**
 * Changes the rate of one channel, block by block, with memory that does not depend on its length. Linear phase, its
 * delay removed: output frame n stands at the time n / to. The whole output has round(input frames x to / from) frames.
 * What lies before and after the input counts as silence.
 */
export class Resampler {
  private readonly steps: readonly RateProcess[];
  private readonly from: Rate;
  private readonly to: Rate;
  private taken = 0;
  private given = 0;

  /** @throws RangeError for what is not a rate, and for rates more than 256 : 1 apart. */
  constructor(
    from: Rate,
    to: Rate,
    { quality = QUALITIES.standard, frames = Number.POSITIVE_INFINITY }: ResampleWish = {},
  ) {
    const ratio = ratioOf(from, to);
    const { of, by } = ratio;
    if (Math.max(of / by, by / of) > MAX_RATIO) throw new RangeError(`${from} and ${to} Hz are too far apart`);
    this.from = from;
    this.to = to;
    const steps = of === by ? [] : stepsFor(ratio, quality, frames * Math.max(1, of / by) < SHORT);
    // Each step but the last begins as far before the sound as the one after it reaches.
    this.steps = steps.map(({ reach, begin }, i) => begin(i === 0 ? 0 : reach, steps[i + 1]?.reach ?? 0));
  }

  /** Takes the next input frames and returns the output frames that they complete, valid until the next are asked for. */
  push(input: Float32Array): Float32Array {
    this.taken += input.length;
    return this.give(this.steps.reduce((samples, step) => step.push(samples), input));
  }

  /** Takes the last input frames, if there are more, and returns the rest of the output. */
  finish(last: Float32Array = new Float32Array(0)): Float32Array {
    this.taken += last.length;
    const left = framesAtRate(this.taken, this.from, this.to) - this.given;
    const end = this.steps.length - 1;
    const ending = (input: Float32Array, step: RateProcess, i: number) =>
      step.ending(input, i === end ? left : Number.POSITIVE_INFINITY);
    return this.give(this.steps.reduce(ending, last));
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
  return new Resampler(from, to, { quality, frames: samples.length }).finish(samples);
}
