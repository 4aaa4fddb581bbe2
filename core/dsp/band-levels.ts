import { powerKernel, WINDOWS } from '../kernel/power.ts';
import { transformPlan } from './transform-plan.ts';

/** The power of a sound over time in bands that are equally wide to the ear. */
export interface BandLevels {
  readonly frames: number;
  /** Frame by frame, `BANDS` numbers each. */
  readonly power: Float32Array;
}

/** Hz of the sound that is looked at. */
export const BANDS_RATE = 8000;
/** Samples from one frame to the next. */
export const BANDS_HOP = 128;
/** Samples of a frame. */
const WINDOW = 512;
/** Hz: what telephones, small loudspeakers and small microphones let through. */
const [LOWEST, HIGHEST] = [200, 3600];
/** Bands of a ninth of an octave. */
export const BANDS = Math.round(9 * Math.log2(HIGHEST / LOWEST));

/** Hz at which a band begins, which is where the one before it ends. */
export const bandStart = (band: number): number => LOWEST * (HIGHEST / LOWEST) ** (band / BANDS);

/** For each band its first and last bin; narrow ones share a bin. */
const EDGES = Array.from({ length: BANDS }, (_, band) => {
  const at = (place: number) => (bandStart(place) * WINDOW) / BANDS_RATE;
  const first = Math.round(at(band));
  return [first, Math.max(first, Math.round(at(band + 1)) - 1)] as const;
});

const SHAPE = Float32Array.from({ length: WINDOW }, (_, i) => 0.5 - 0.5 * Math.cos((2 * Math.PI * i) / WINDOW));

/** Calls `use` with the power of each bin, frame after frame. Gives the number of frames. @param samples at `BANDS_RATE` */
function eachFrame(samples: Float32Array, use: (bins: Float64Array, frame: number) => void): number {
  const transform = powerKernel(transformPlan(WINDOW));
  const frames = framesOf(samples);
  // The kernel takes several windows at once and adds their powers: all but the first stay silent.
  const windows = new Float32Array(2 * WINDOWS * WINDOW);
  const bins = new Float64Array(WINDOW / 2 + 1);
  for (let frame = 0; frame < frames; frame++) {
    const from = frame * BANDS_HOP - WINDOW / 2;
    for (let i = 0; i < WINDOW; i++) windows[i] = samples[from + i] ?? 0;
    bins.fill(0);
    transform(windows, SHAPE, bins);
    use(bins, frame);
  }
  return frames;
}

const framesOf = (samples: Float32Array) => Math.max(1, Math.ceil(samples.length / BANDS_HOP));

/** @param samples at `BANDS_RATE` */
export function bandLevels(samples: Float32Array): BandLevels {
  const power = new Float32Array(framesOf(samples) * BANDS);
  const frames = eachFrame(samples, (bins, frame) => {
    for (const [band, [first, end]] of EDGES.entries()) {
      let sum = 0;
      for (let k = first; k <= end; k++) sum += bins[k];
      power[frame * BANDS + band] = sum;
    }
  });
  return { frames, power };
}

/** The power of a sound over time up to each bin: what it has in any band is a difference of two. */
export interface PowerBelow {
  readonly frames: number;
  /** Frame by frame, `BINS + 1` sums each. */
  readonly sums: Float64Array;
}

const BINS = WINDOW / 2 + 1;

/** @param samples at `BANDS_RATE` */
export function powerBelow(samples: Float32Array): PowerBelow {
  const sums = new Float64Array(framesOf(samples) * (BINS + 1));
  const frames = eachFrame(samples, (bins, frame) => {
    const at = frame * (BINS + 1);
    for (let k = 0; k < BINS; k++) sums[at + k + 1] = sums[at + k] + bins[k];
  });
  return { frames, sums };
}

/** The bands of a sound if all its frequencies were so many times what they are; its frames stay where they are. */
export function shiftedBands({ frames, sums }: PowerBelow, times: number): BandLevels {
  const power = new Float32Array(frames * BANDS);
  // A bin reaches half of its width to each side.
  const places = Array.from({ length: BANDS + 1 }, (_, band) =>
    Math.min(BINS, (bandStart(band) * WINDOW) / BANDS_RATE / times + 0.5),
  );
  for (let frame = 0; frame < frames; frame++) {
    const at = frame * (BINS + 1);
    const below = (place: number) => {
      const [k, share] = [Math.floor(place), place % 1];
      return sums[at + k] + (share > 0 ? share * (sums[at + k + 1] - sums[at + k]) : 0);
    };
    let before = below(places[0]);
    for (let band = 0; band < BANDS; band++) {
      const next = below(places[band + 1]);
      power[frame * BANDS + band] = next - before;
      before = next;
    }
  }
  return { frames, power };
}

/** The mean power of each band. */
export function bandMeans({ frames, power }: BandLevels): Float32Array {
  const means = new Float32Array(BANDS);
  for (let i = 0; i < power.length; i++) means[i % BANDS] += power[i] / frames;
  return means;
}
