import { BANDS, type BandLevels, bandLevels, bandMeans } from './band-levels.ts';

/** Logarithms of what stands out of the noise, less their mean in each band. */
interface Features {
  readonly values: Float32Array;
  readonly frames: number;
  /** Root of the sum of their squares. */
  readonly norm: number;
}

/** Frames that are taken together for a first look. */
const TOGETHER = 6;

/** A recording, ready to be compared with sounds. */
export interface BandRecording {
  readonly levels: BandLevels;
  /** What it is compared by: frame by frame, and some frames together, for a first look. */
  readonly fine: Features;
  readonly coarse: Features;
  /** For each band how far the sound stands out of the noise: power over power. */
  readonly overNoise: Float32Array;
  /** For each band the power of the noise. */
  readonly noise: Float32Array;
}

/** Where a sound was found in a recording. */
export interface BandMatch {
  /** How alike both are, -1..1. */
  readonly score: number;
  /** Frames of the recording before the sound begins; below 0 if its start is not there. */
  readonly offset: number;
  /** By how much the sound is faster than thought. */
  readonly stretch: number;
}

/** The noise of a band is what is there a tenth of the time. */
const QUIET_SHARE = 0.1;
/** What stands less far out of the noise does not count. */
const NOISE_WEIGHT = 3;

function quantile(values: Float32Array, share: number): number {
  const sorted = values.slice().sort();
  return sorted[Math.floor(share * (sorted.length - 1))] ?? 0;
}

const bandOf = ({ frames, power }: BandLevels, band: number) =>
  Float32Array.from({ length: frames }, (_, frame) => power[frame * BANDS + band]);

/** What lies so far below the mean of a sound without noise is not heard: 40 dB. */
const UNHEARD = 1e-4;

/**
 * @param samples at `BANDS_RATE`
 * @param isClean true for a sound that is no recording: all of it is sound, however steady
 */
export function listened(samples: Float32Array, isClean = false): BandRecording {
  const levels = bandLevels(samples);
  const noise = new Float32Array(BANDS);
  const overNoise = new Float32Array(BANDS);
  const means = bandMeans(levels);
  const floor = (UNHEARD * means.reduce((sum, mean) => sum + mean, 0)) / BANDS;
  for (let band = 0; band < BANDS; band++) {
    // The power of noise in a band scatters around its mean; its tenth part is about a seventh of that in narrow bands.
    noise[band] = (isClean ? floor : 3 * quantile(bandOf(levels, band), QUIET_SHARE)) + 1e-9;
    overNoise[band] = Math.max(0, means[band] / noise[band] - 1);
  }
  const values = new Float32Array(levels.power.length);
  for (let i = 0; i < values.length; i++) values[i] = Math.log1p(levels.power[i] / (NOISE_WEIGHT * noise[i % BANDS]));
  center(values);
  return { levels, fine: asFeatures(values), coarse: asFeatures(pooled(values)), overNoise, noise };
}

const asFeatures = (values: Float32Array): Features => ({
  values,
  frames: values.length / BANDS,
  norm: Math.sqrt(values.reduce((sum, value) => sum + value ** 2, 0)),
});

/** The means of some frames each. */
function pooled(values: Float32Array): Float32Array {
  const frames = Math.max(1, Math.floor(values.length / BANDS / TOGETHER));
  const out = new Float32Array(frames * BANDS);
  for (let i = 0; i < out.length; i++) {
    const [frame, band] = [Math.floor(i / BANDS), i % BANDS];
    for (let k = 0; k < TOGETHER; k++) out[i] += (values[(frame * TOGETHER + k) * BANDS + band] ?? 0) / TOGETHER;
  }
  return out;
}

/** Takes the mean of each band away. */
function center(values: Float32Array): void {
  for (let band = 0; band < BANDS; band++) {
    let sum = 0;
    for (let i = band; i < values.length; i += BANDS) sum += values[i];
    for (let i = band; i < values.length; i += BANDS) values[i] -= (sum * BANDS) / values.length;
  }
}

/** For each band what of a sound does not stand out of the noise of a recording, were it in it; infinite if nothing does. */
const floorsOf = (sound: BandLevels, { overNoise }: BandRecording): Float32Array =>
  bandMeans(sound).map((mean, band) => (overNoise[band] > 0.05 ? mean / overNoise[band] : Number.POSITIVE_INFINITY));

/** A sound's features as a recording of such noise would have them, at another speed. */
function expected(levels: BandLevels, floors: Float32Array, stretch: number): Float32Array {
  const frames = Math.max(1, Math.floor(levels.frames / stretch));
  const out = new Float32Array(frames * BANDS);
  for (let frame = 0; frame < frames; frame++) {
    const at = Math.min(levels.frames - 1, frame * stretch);
    const [first, share] = [Math.floor(at), at % 1];
    const next = Math.min(levels.frames - 1, first + 1);
    for (let band = 0; band < BANDS; band++) {
      const power = (1 - share) * levels.power[first * BANDS + band] + share * levels.power[next * BANDS + band];
      const floor = NOISE_WEIGHT * floors[band];
      out[frame * BANDS + band] = floor > 0 && Number.isFinite(floor) ? Math.log1p(power / floor) : 0;
    }
  }
  return out;
}

/** At least so much of a sound has to be in the recording, or all of a shorter recording has to be sound. */
const LEAST_THERE = 0.35;

/** Likeness of a sound's features with those of a recording, at each of its frames, or near one. */
function likeness(
  own: Float32Array,
  { values: features, frames: total, norm }: Features,
  near?: { readonly offset: number; readonly reach: number },
): readonly { offset: number; score: number }[] {
  const frames = own.length / BANDS;
  // What is there of it, up to each frame: its sums in bands, and of squares.
  const sums = new Float64Array((frames + 1) * BANDS);
  const squares = new Float64Array(frames + 1);
  for (let frame = 0; frame < frames; frame++) {
    let square = 0;
    for (let band = 0; band < BANDS; band++) {
      const value = own[frame * BANDS + band];
      sums[(frame + 1) * BANDS + band] = sums[frame * BANDS + band] + value;
      square += value ** 2;
    }
    squares[frame + 1] = squares[frame] + square;
  }
  /** Beside the sound there is nothing: the mean is that over all of the recording. */
  const variance = (from: number, to: number): number => {
    let rest = squares[to] - squares[from];
    for (let band = 0; band < BANDS; band++) {
      rest -= (sums[to * BANDS + band] - sums[from * BANDS + band]) ** 2 / total;
    }
    return rest;
  };
  const first = -Math.floor(frames * (1 - LEAST_THERE));
  const last = total - Math.floor(Math.min(frames, total) * LEAST_THERE);
  const found: { offset: number; score: number }[] = [];
  const start = near ? Math.max(first, near.offset - near.reach) : first;
  const end = near ? Math.min(last, near.offset + near.reach) : last;
  for (let offset = start; offset <= end; offset++) {
    const from = Math.max(0, -offset);
    const to = Math.min(frames, total - offset);
    let sum = 0;
    for (let i = from * BANDS, j = (from + offset) * BANDS; i < to * BANDS; i++, j++) sum += own[i] * features[j];
    const scale = Math.sqrt(Math.max(variance(from, to), 1e-12)) * Math.max(norm, 1e-12);
    found.push({ offset, score: sum / scale });
  }
  return found;
}

/** Clocks are off by so much at most, tried in so many steps to each side. */
const CLOCK = 0.012;
const CLOCK_STEPS = 2;

/** Finds a sound in a recording: first some frames together, then frame by frame near where that was best. */
export function findInBands(sound: BandLevels, recording: BandRecording): BandMatch {
  const floors = floorsOf(sound, recording);
  let best: BandMatch = { score: Number.NEGATIVE_INFINITY, offset: 0, stretch: 1 };
  for (let k = -CLOCK_STEPS; k <= CLOCK_STEPS; k++) {
    const match = matchOf(expected(sound, floors, 1 + (CLOCK * k) / CLOCK_STEPS), recording);
    if (match.score > best.score) best = { ...match, stretch: 1 + (CLOCK * k) / CLOCK_STEPS };
  }
  return best;
}

function matchOf(own: Float32Array, recording: BandRecording): Omit<BandMatch, 'stretch'> {
  const rough = likeness(pooled(own), recording.coarse).reduce((a, b) => (b.score > a.score ? b : a));
  const near = { offset: rough.offset * TOGETHER, reach: 2 * TOGETHER };
  return likeness(own, recording.fine, near).reduce((a, b) => (b.score > a.score ? b : a));
}

/**
 * How alike a sound and a recording are at most, some frames taken together: a first look.
 * @param stretch by how much the sound is faster than its frames say
 */
export const roughMatch = (sound: BandLevels, recording: BandRecording, stretch: number): number =>
  likeness(pooled(expected(sound, floorsOf(sound, recording), stretch)), recording.coarse).reduce(
    (best, { score }) => Math.max(best, score),
    Number.NEGATIVE_INFINITY,
  );

/** Likeness at each offset, for whoever looks for the sound again. */
export const everywhere = (sound: BandLevels, recording: BandRecording, stretch: number) =>
  likeness(expected(sound, floorsOf(sound, recording), stretch), recording.fine);
