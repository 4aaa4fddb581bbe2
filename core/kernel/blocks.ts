import { kernelInstance, kernelModule } from './module.ts';

/** Radices that the kernel knows, in the order in which the passes take them: the last turns nothing, so a large one is best there. */
export const RADICES = [4, 2, 3, 5, 7] as const;

/** Transforms eight blocks at once: four as real and four as imaginary parts. */
export const BLOCKS = 8;
const LANES = BLOCKS / 2;

/** How so many complex numbers are transformed. */
export interface TransformPlan {
  /** Product of the radices, one for each pass. */
  readonly count: number;
  readonly radices: readonly number[];
  /** For each pass, each element of its first group, each result but the first: cosine and sine of its turn. */
  readonly factors: Float32Array;
  /** Where bin k is found afterwards, in elements. */
  readonly places: Uint32Array;
}

/**
 * A filter that changes the rate in blocks, by overlap and save: a block of `into.count` samples is transformed, its lowest
 * bins are weighed and transformed back as a block of `back.count` samples, of which the middle counts.
 */
export interface BlockFilter {
  readonly into: TransformPlan;
  readonly back: TransformPlan;
  /** For the bins 0, 1 ...: what a bin and the one of the other sign are multiplied by. Fewer than half of either count. */
  readonly weights: Float32Array;
  /** Samples by which a block begins after the one before. */
  readonly hop: number;
  /** Of what comes back: the first sample that counts, and how many do. */
  readonly first: number;
  readonly given: number;
}

/** Samples that eight blocks take: they overlap. */
export const takenBy = ({ into, hop }: BlockFilter): number => (BLOCKS - 1) * hop + into.count;

/** Makes `8 * given` samples of the first `takenBy` of the input. */
export type BlockKernel = (input: Float32Array, output: Float32Array) => void;

const { fround } = Math;

/** In place, as transform.as.ts does it, one transform alone: every step rounded to 32 bits, in the same order. */
function transformTwin({ count, radices, factors }: TransformPlan, re: Float32Array, im: Float32Array): void {
  let length = count;
  let at = 0;
  for (const radix of radices) {
    const step = length / radix;
    for (let base = 0; base < count; base += length) {
      for (let j = 0; j < step; j++) {
        const xr = Array.from({ length: radix }, (_, q) => re[base + j + q * step]);
        const xi = Array.from({ length: radix }, (_, q) => im[base + j + q * step]);
        const [yr, yi] = radix % 2 === 0 ? evenButterfly(xr, xi) : oddButterfly(xr, xi);
        for (let q = 0; q < radix; q++) {
          const place = base + j + q * step;
          if (q === 0 || step === 1) {
            re[place] = yr[q];
            im[place] = yi[q];
          } else {
            const c = factors[at + 2 * (j * (radix - 1) + q - 1)];
            const s = factors[at + 2 * (j * (radix - 1) + q - 1) + 1];
            re[place] = fround(yr[q] * c) - fround(yi[q] * s);
            im[place] = fround(yr[q] * s) + fround(yi[q] * c);
          }
        }
      }
    }
    at += 2 * step * (radix - 1);
    length = step;
  }
}

type Complex = readonly [re: readonly number[], im: readonly number[]];

function evenButterfly(xr: readonly number[], xi: readonly number[]): Complex {
  const half = xr.length / 2;
  const sum = (x: readonly number[], q: number) => fround(x[q] + x[q + half]);
  const difference = (x: readonly number[], q: number) => fround(x[q] - x[q + half]);
  if (half === 1) {
    return [
      [sum(xr, 0), difference(xr, 0)],
      [sum(xi, 0), difference(xi, 0)],
    ];
  }
  const [ar, ai, br, bi] = [sum(xr, 0), sum(xi, 0), difference(xr, 0), difference(xi, 0)];
  const [cr, ci, dr, di] = [sum(xr, 1), sum(xi, 1), difference(xr, 1), difference(xi, 1)];
  return [
    [fround(ar + cr), fround(br + di), fround(ar - cr), fround(br - di)],
    [fround(ai + ci), fround(bi - dr), fround(ai - ci), fround(bi + dr)],
  ];
}

/** Radix 3, 5 or 7: results k and radix - k are the cosine sums of what is alike in both, and differ by the sine sums. */
function oddButterfly(xr: readonly number[], xi: readonly number[]): Complex {
  const radix = xr.length;
  const pairs = Array.from({ length: (radix - 1) / 2 }, (_, q) => q + 1);
  const weighed = (start: number, weight: (q: number) => number, x: readonly number[], sign: number) =>
    pairs.reduce((sum, q) => fround(sum + fround(weight(q) * fround(x[q] + sign * x[radix - q]))), start);
  const [yr, yi]: [number[], number[]] = [[], []];
  yr[0] = weighed(xr[0], () => 1, xr, 1);
  yi[0] = weighed(xi[0], () => 1, xi, 1);
  for (const k of pairs) {
    const angle = (q: number) => (2 * Math.PI * k * q) / radix;
    const cosine = (q: number) => fround(Math.cos(angle(q)));
    const sine = (q: number) => fround(Math.sin(angle(q)));
    const [mr, mi] = [weighed(xr[0], cosine, xr, 1), weighed(xi[0], cosine, xi, 1)];
    const [nr, ni] = [weighed(-0, sine, xr, -1), weighed(-0, sine, xi, -1)];
    yr[k] = fround(mr + ni);
    yi[k] = fround(mi - nr);
    yr[radix - k] = fround(mr - ni);
    yi[radix - k] = fround(mi + nr);
  }
  return [yr, yi];
}

/** The kernel in plain TypeScript: the oracle of the WebAssembly one, and its stand-in where SIMD is missing; the same bits. */
export function blockTwin({ into, back, weights, hop, first, given }: BlockFilter): BlockKernel {
  const re = new Float32Array(into.count);
  const im = new Float32Array(into.count);
  const bins = [new Float32Array(back.count), new Float32Array(back.count)] as const;
  return (x, y) => {
    for (let lane = 0; lane < LANES; lane++) {
      const [low, high] = [lane * hop, (lane + LANES) * hop];
      re.set(x.subarray(low, low + into.count));
      im.set(x.subarray(high, high + into.count));
      transformTwin(into, re, im);
      // Real and imaginary parts change places: transforming again goes back.
      for (const part of bins) part.fill(0);
      weights.forEach((weight, k) => {
        for (const sign of k === 0 ? [0] : [1, -1]) {
          const from = into.places[(into.count + sign * k) % into.count];
          const to = (back.count + sign * k) % back.count;
          bins[0][to] = im[from] * weight;
          bins[1][to] = re[from] * weight;
        }
      });
      transformTwin(back, ...bins);
      for (let n = 0; n < given; n++) {
        const place = back.places[first + n];
        y[lane * given + n] = bins[1][place];
        y[(lane + LANES) * given + n] = bins[0][place];
      }
    }
  };
}

const FLOAT = Float32Array.BYTES_PER_ELEMENT;
const ELEMENT = 2 * LANES * FLOAT;

/** The fastest kernel that runs here for `filter`. */
export function blockKernel(filter: BlockFilter): BlockKernel {
  const compiled = kernelModule();
  if (!compiled) return blockTwin(filter);
  const { into, back, weights, hop, first, given } = filter;
  const row = Math.ceil(given / LANES) * LANES;
  let room = 0;
  const reserve = (bytes: number): number => {
    const at = room;
    room += Math.ceil(bytes / ELEMENT) * ELEMENT;
    return at;
  };
  const data = reserve(into.count * ELEMENT);
  const bins = reserve(back.count * ELEMENT);
  const x = reserve(takenBy(filter) * FLOAT);
  const y = reserve(BLOCKS * row * FLOAT);
  const tables = [into, back].map(({ count, radices, factors }) => ({
    radices: reserve(radices.length),
    factors: reserve(factors.length * FLOAT),
    places: reserve((count + LANES) * FLOAT),
  }));
  const h = reserve(weights.length * FLOAT);
  const exports = kernelInstance(compiled, room);
  const { buffer } = exports.memory as WebAssembly.Memory;
  [into, back].forEach(({ count, radices, factors, places }, i) => {
    new Uint8Array(buffer, tables[i].radices).set(radices);
    new Float32Array(buffer, tables[i].factors).set(factors);
    new Uint32Array(buffer, tables[i].places, count).set(places.map((place) => place * ELEMENT));
  });
  new Float32Array(buffer, h).set(weights);
  const input = new Float32Array(buffer, x, takenBy(filter));
  const output = new Float32Array(buffer, y, BLOCKS * row);
  type Run = (...args: number[]) => void;
  const { takeBlocks, transform, weighBins, giveBlocks } = exports as Record<string, Run>;
  return (samples, made) => {
    input.set(samples);
    takeBlocks(x, hop, data, into.count);
    transform(data, into.count, tables[0].radices, into.radices.length, tables[0].factors);
    weighBins(data, tables[0].places, into.count, h, weights.length, bins, back.count);
    transform(bins, back.count, tables[1].radices, back.radices.length, tables[1].factors);
    giveBlocks(bins, tables[1].places + first * FLOAT, y, given, row * FLOAT);
    for (let block = 0; block < BLOCKS; block++) {
      made.set(output.subarray(block * row, block * row + given), block * given);
    }
  };
}
