import type { BitWriter } from './bits.ts';

/**
 * Rice codes (RFC 9639, 9.2.7): residuals are folded to 0, 1, 2 for 0, -1, 1 and so on; of each the part above the
 * parameter is written in unary, the rest as it is. A block is cut into 2^order partitions with a parameter each.
 */
export interface RicePlan {
  readonly order: number;
  readonly parameters: readonly number[];
  /** Bits of all of it. */
  readonly bits: number;
}

/** Partitions in powers of two. */
const MOST_ORDER = 6;
const MOST_PARAMETER = 30;
/** With four bits for each parameter, 15 is an escape; five bits go further. */
const MOST_SHORT_PARAMETER = 14;
const HEADER_BITS = 6;

/** 0, 1, 2, 3, 4 for 0, -1, 1, -2, 2. */
const fold = (value: number): number => ((value << 1) ^ (value >> 31)) >>> 0;

/** About how many bits folded residuals of such a sum take: half of what the parameter cuts off is lost on average. */
const estimate = (count: number, sum: number, parameter: number): number =>
  count * (parameter + 0.5) + sum * 2 ** -parameter;

/** The parameter of fewest bits for so many folded residuals with such a sum. */
function parameterFor(count: number, sum: number): number {
  if (sum <= count) return 0;
  // The best one is near the binary logarithm of the mean.
  const guess = Math.min(MOST_PARAMETER - 1, 31 - Math.clz32(Math.min(0xffffffff, sum / count)));
  return estimate(count, sum, guess) <= estimate(count, sum, guess + 1) ? guess : guess + 1;
}

/** How a residual is best written; its first `skip` entries are not. */
export function planRice(residual: Int32Array, skip: number): RicePlan {
  const { length } = residual;
  // Partitions have one length; the first one has to hold more than what is skipped.
  let order = 0;
  while (order < MOST_ORDER && length % 2 ** (order + 1) === 0 && length / 2 ** (order + 1) > skip) order++;
  let sums = sumsOf(residual, skip, 2 ** order);
  let best: Omit<RicePlan, 'bits'> = { order, parameters: [] };
  let least = Number.POSITIVE_INFINITY;
  for (; order >= 0; order--) {
    const size = length / 2 ** order;
    const parameters: number[] = [];
    let bits = 4 * sums.length;
    for (let i = 0; i < sums.length; i++) {
      const count = i === 0 ? size - skip : size;
      const parameter = parameterFor(count, sums[i]);
      parameters.push(parameter);
      bits += estimate(count, sums[i], parameter);
    }
    if (bits < least) {
      least = bits;
      best = { order, parameters };
    }
    const halved = new Float64Array(sums.length / 2);
    for (let i = 0; i < halved.length; i++) halved[i] = sums[2 * i] + sums[2 * i + 1];
    sums = halved;
  }
  return { ...best, bits: exactBits(residual, skip, best) };
}

/** Sums of folded residuals in so many partitions. */
function sumsOf(residual: Int32Array, skip: number, partitions: number): Float64Array {
  const size = residual.length / partitions;
  const sums = new Float64Array(partitions);
  for (let partition = 0; partition < partitions; partition++) {
    let sum = 0;
    for (let i = Math.max(skip, partition * size); i < (partition + 1) * size; i++) sum += fold(residual[i]);
    sums[partition] = sum;
  }
  return sums;
}

const parameterBits = ({ parameters }: Pick<RicePlan, 'parameters'>): 4 | 5 =>
  parameters.every((parameter) => parameter <= MOST_SHORT_PARAMETER) ? 4 : 5;

function exactBits(residual: Int32Array, skip: number, plan: Omit<RicePlan, 'bits'>): number {
  const size = residual.length / 2 ** plan.order;
  let bits = HEADER_BITS + plan.parameters.length * parameterBits(plan);
  plan.parameters.forEach((parameter, partition) => {
    const from = Math.max(skip, partition * size);
    const to = (partition + 1) * size;
    bits += (to - from) * (parameter + 1);
    for (let i = from; i < to; i++) bits += fold(residual[i]) >>> parameter;
  });
  return bits;
}

/** Writes a residual as planned. */
export function writeRice(out: BitWriter, residual: Int32Array, skip: number, plan: RicePlan): void {
  const width = parameterBits(plan);
  out.put(width === 4 ? 0 : 1, 2);
  out.put(plan.order, 4);
  const size = residual.length / 2 ** plan.order;
  plan.parameters.forEach((parameter, partition) => {
    out.put(parameter, width);
    for (let i = Math.max(skip, partition * size); i < (partition + 1) * size; i++) {
      const folded = fold(residual[i]);
      out.putUnary(folded >>> parameter);
      out.put(folded, parameter);
    }
  });
}
