import { joined } from '../audio/index.ts';
import { type PolyphaseFilter, type PolyphaseKernel, polyphaseKernel } from '../kernel/polyphase.ts';
import { type Fraction, steady } from '../numbers/index.ts';
import { besselI0, kaiserBeta, kaiserLength, sinc } from './kaiser.ts';
import {
  type Band,
  COEFFICIENT_STEP,
  QUALITIES,
  type RateProcess,
  type RateStep,
  type ResampleQuality,
} from './rate-step.ts';

/**
 * Phases for one cycle of the lower Nyquist frequency beyond which rows are interpolated: weighing two rows so close
 * errs by (pi / rows)^2 / 8 at most, -142 dB.
 */
const ROWS = 4096;

/**
 * Windowed-sinc polyphase filter: `phases` places between two inputs, of which outputs take every `step`th. Cut-off in the
 * middle of the transition band, Kaiser window, every row normalised to unit gain at DC. Row p serves outputs that fall
 * p / rows after an input.
 */
export function windowedSinc(
  band: Band,
  attenuation: number,
  { phases, step, rows }: Pick<PolyphaseFilter, 'phases' | 'step' | 'rows'>,
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

/** The filter for output / input frames in one step; beyond `mostRows` phases rows are weighed against each other. */
export function designFilter(
  { of: phases, by: step }: Fraction,
  quality: ResampleQuality = QUALITIES.standard,
  mostRows: number = ROWS,
): PolyphaseFilter {
  const down = Math.max(1, step / phases);
  const stop = 0.5 / down;
  const rows = Math.min(phases, Math.ceil(mostRows / down));
  return windowedSinc({ end: stop * quality.passBand, stop }, quality.attenuation, { phases, step, rows });
}

/** Outputs made in one call of the kernel. */
const BLOCK = 4096;

const maxBlockInput = (filter: PolyphaseFilter): number =>
  filter.taps + Math.ceil(((BLOCK + 1) * filter.step) / filter.phases) + 1;

/** A conversion by a polyphase filter. */
export function polyphaseStep(filter: PolyphaseFilter): RateStep {
  const kernel = polyphaseKernel(filter, maxBlockInput(filter), BLOCK);
  const reach = filter.taps / 2 - 1;
  return {
    reach,
    begin: (early, before) =>
      new PolyphaseProcess(filter, kernel, reach + (before * filter.step) / filter.phases - early),
  };
}

class PolyphaseProcess implements RateProcess {
  private readonly filter: PolyphaseFilter;
  private readonly kernel: PolyphaseKernel;
  /** Input not yet used up; `pending[0]` meets the first tap of the next output. */
  private pending: Float32Array;
  private buffered: number;
  private phase = 0;

  /** @param zeros frames of silence at the start of the input */
  constructor(filter: PolyphaseFilter, kernel: PolyphaseKernel, zeros: number) {
    this.filter = filter;
    this.kernel = kernel;
    this.buffered = zeros;
    this.pending = new Float32Array(Math.max(zeros, maxBlockInput(filter)));
  }

  push(input: Float32Array, limit = Number.POSITIVE_INFINITY): Float32Array {
    const { taps, phases, step } = this.filter;
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
      this.kernel(this.pending.subarray(used, used + reach), made, count, this.phase);
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

  ending(input: Float32Array, limit: number): Float32Array {
    const { taps, phases, step } = this.filter;
    return this.push(joined(input, new Float32Array(taps + Math.ceil(step / phases))), limit);
  }

  private makeRoom(length: number): void {
    if (length <= this.pending.length) return;
    const larger = new Float32Array(length + this.filter.taps);
    larger.set(this.pending.subarray(0, this.buffered));
    this.pending = larger;
  }
}
