import { Room } from '../bytes/index.ts';
import { BLOCKS, type BlockFilter, type BlockKernel, blockKernel, takenBy } from '../kernel/blocks.ts';
import { type Fraction, steady } from '../numbers/index.ts';
import { besselI0, kaiserBeta, kaiserLength, sinc } from './kaiser.ts';
import { type Band, COEFFICIENT_STEP, type RateProcess, type RateStep } from './rate-step.ts';
import { type Radix, radicesOf, transformPlan } from './transform-plan.ts';

/** Samples of a block, at most: eight blocks stay within half a megabyte. */
const LARGEST = 16_384;
/** Up to so many they stay near the processor; beyond, everything costs more by this factor. */
const NEAR = 8192;
const COST_FAR = 1.2;
/** Where less of a block is new, as the filter is long, other ways are faster. */
const LEAST_NEW = 0.5;

/** What a pass costs for an element, measured against each other: sums and products, and the way to memory. */
const COST: Readonly<Record<Radix, number>> = { 2: 10, 3: 14, 4: 13, 5: 19, 7: 24 };
/** What an element costs once: taken, weighed or given. */
const COST_ONCE = 12;

/** What a transform of so many elements costs; infinite if there is none. */
function costOf(count: number): number {
  const radices = radicesOf(count);
  if (!radices) return Number.POSITIVE_INFINITY;
  const each = radices.reduce((sum, radix) => sum + COST[radix], COST_ONCE);
  return count * each * (count > NEAR ? COST_FAR : 1);
}

/** How blocks are laid: `times` the ratio's terms long, of which `hop` times the terms are new with each. */
interface Layout {
  readonly times: number;
  /** In output frames. */
  readonly first: number;
  readonly hop: number;
}

/**
 * The layout that costs least for an output frame, or null if no block is long enough for the filter.
 * @param half frames that the filter reaches to either side, at the higher of both rates
 */
function layoutOf({ of, by }: Fraction, half: number): Layout | null {
  const reach = Math.ceil((half * of) / Math.max(of, by));
  const first = of * Math.ceil(reach / of);
  let best: Layout | null = null;
  let least = Number.POSITIVE_INFINITY;
  for (let times = 1; Math.max(of, by) * times <= LARGEST; times++) {
    if ((by * times) % 4 !== 0) continue;
    const hop = Math.floor((of * times - reach - first) / of);
    if (hop < times * LEAST_NEW) continue;
    const cost = (costOf(by * times) + costOf(of * times)) / hop;
    if (cost < least) {
      least = cost;
      best = { times, first, hop };
    }
  }
  return best;
}

/**
 * What the windowed sinc does at the bins of a block up to the stop band: its response, real as it is symmetric. Kaiser
 * window, cut-off in the middle of the transition band, unit gain at DC.
 * @param band in cycles per frame of the higher of both rates
 * @param count frames of a block at that rate
 */
function responseOf(band: Band, attenuation: number, count: number): Float64Array {
  const width = kaiserLength(attenuation, band.stop - band.end) / 2;
  const cutoff = (band.end + band.stop) / 2;
  const beta = kaiserBeta(attenuation);
  // The tap in the middle, and pairs to either side of it.
  const taps = new Float64Array(Math.floor(width) + 1);
  for (let n = 0; n < taps.length; n++) {
    const place = n / width;
    taps[n] = sinc(2 * cutoff * n) * besselI0(beta * Math.sqrt(1 - place * place)) * (n === 0 ? 1 : 2);
  }
  const cosine = new Float64Array(count);
  for (let n = 0; n < count; n++) cosine[n] = Math.cos((2 * Math.PI * n) / count);
  const gain = taps.reduce((sum, tap) => sum + tap, 0);
  // A bin on the edge is left out, also where rounding puts it just below.
  const response = new Float64Array(Math.ceil(band.stop * count - 1e-6));
  for (let k = 0; k < response.length; k++) {
    let sum = 0;
    for (let n = 0, at = 0; n < taps.length; n++) {
      sum += taps[n] * cosine[at];
      at += k;
      if (at >= count) at -= count;
    }
    response[k] = steady(sum / gain, COEFFICIENT_STEP);
  }
  return response;
}

/**
 * A conversion in blocks, or null if the ratio has prime factors above 7 or the filter is too long for a block.
 * @param ratio output / input frames, in lowest terms
 * @param band in cycles per input frame
 */
export function blockStep(ratio: Fraction, band: Band, attenuation: number): RateStep | null {
  const { of, by } = ratio;
  const scale = Math.min(1, by / of);
  const atHigher: Band = { end: band.end * scale, stop: band.stop * scale };
  const half = Math.floor(kaiserLength(attenuation, atHigher.stop - atHigher.end) / 2);
  const layout = layoutOf(ratio, half);
  if (!layout) return null;
  const { times, first, hop } = layout;
  const into = transformPlan(by * times);
  const back = transformPlan(of * times);
  const response = responseOf(atHigher, attenuation, Math.max(into.count, back.count));
  const filter: BlockFilter = {
    into,
    back,
    weights: new Float32Array(response.map((value) => value / into.count)),
    hop: hop * by,
    first,
    given: hop * of,
  };
  const kernel = blockKernel(filter);
  const reach = (half * by) / Math.max(of, by);
  return {
    reach: Math.ceil(reach),
    begin(early, before) {
      // Blocks begin where an input and an output frame are at the same place.
      const units = Math.ceil(before / of);
      return new BlockProcess(filter, kernel, reach, (first / of + units) * by - early, units * of - before);
    },
  };
}

class BlockProcess implements RateProcess {
  private readonly filter: BlockFilter;
  private readonly kernel: BlockKernel;
  private readonly reach: number;
  /** Input not yet used up; `pending[0]` is the first of the next eight blocks. */
  private readonly pending: Float32Array;
  private buffered: number;
  private readonly room = new Room();
  /** Output frames that are still left out, as they are before the first that is wanted. */
  private extra: number;

  /**
   * @param reach input frames that the filter reaches to either side, not a whole number
   * @param zeros frames of silence at the start of the input
   */
  constructor(filter: BlockFilter, kernel: BlockKernel, reach: number, zeros: number, extra: number) {
    this.filter = filter;
    this.kernel = kernel;
    this.reach = reach;
    this.pending = new Float32Array(takenBy(filter));
    this.buffered = zeros;
    this.extra = extra;
  }

  push(input: Float32Array): Float32Array {
    const { hop } = this.filter;
    return this.run(input, Math.floor((this.buffered + input.length - this.pending.length) / (BLOCKS * hop)) + 1);
  }

  ending(input: Float32Array, limit: number): Float32Array {
    const { hop, given } = this.filter;
    const all = Math.ceil((this.buffered + input.length) / (BLOCKS * hop));
    const wanted = Math.ceil((limit + this.extra) / (BLOCKS * given));
    return this.run(input, Math.min(all, wanted)).subarray(0, limit);
  }

  /** Converts eight blocks so many times; silence follows the input if that is too short. */
  private run(input: Float32Array, turns: number): Float32Array {
    const { hop, given } = this.filter;
    const { pending } = this;
    const output = this.room.samples(0, Math.max(0, turns) * BLOCKS * given);
    let used = 0;
    const take = () => {
      const part = input.subarray(used, used + pending.length - this.buffered);
      pending.set(part, this.buffered);
      this.buffered += part.length;
      used += part.length;
    };
    for (let turn = 0; turn < turns; turn++) {
      take();
      pending.fill(0, this.buffered);
      const made = output.subarray(turn * BLOCKS * given, (turn + 1) * BLOCKS * given);
      this.kernel(pending, made);
      this.silence(made);
      pending.copyWithin(0, BLOCKS * hop);
      this.buffered = Math.max(0, this.buffered - BLOCKS * hop);
    }
    take();
    const wanted = output.subarray(this.extra);
    this.extra -= output.length - wanted.length;
    return wanted;
  }

  /** Where all that the filter reaches is silence, so is its output: a transform leaves traces there of what is near. */
  private silence(made: Float32Array): void {
    const { into, back, first } = this.filter;
    const { pending } = this;
    const start = (first * into.count) / back.count;
    const outputAt = (frame: number) => ((frame - start) * back.count) / into.count;
    // A run that is long enough to matter cannot pass between two frames that are so far apart.
    const stride = Math.ceil(this.reach) + 1;
    for (let at = stride - 1; at < pending.length; at += stride) {
      if (pending[at] !== 0) continue;
      let from = at;
      let to = at + 1;
      while (from > 0 && pending[from - 1] === 0) from--;
      while (to < pending.length && pending[to] === 0) to++;
      const begin = Math.floor(outputAt(from - 1 + this.reach)) + 1;
      const end = Math.ceil(outputAt(to - this.reach));
      if (begin < end) made.fill(0, Math.max(0, begin), Math.max(0, end));
      at = to;
    }
  }
}
