import { FLOAT, LANES } from './memory.ts';
import { kernelInstance, kernelModule } from './module.ts';
import { ELEMENT_FLOATS, type TransformPlan, transformTwin } from './transform.ts';

/** Transforms eight blocks at once: four as real and four as imaginary parts. */
export const BLOCKS = 8;

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

const ELEMENT = ELEMENT_FLOATS * FLOAT;

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
