import { BANDS, BANDS_RATE, type BandLevels, bandMeans, bandStart } from './band-levels.ts';

/** What lies so far below the mean of a sound is not heard: 40 dB. */
const UNHEARD = 1e-4;
/** Frames that are taken together for a first look. */
const TOGETHER = 6;
/** Places that are looked at frame by frame. */
const CLOSER = 3;

/** Sums of some frames each. */
function pooled({ frames, power }: BandLevels): BandLevels {
  const count = Math.max(1, Math.floor(frames / TOGETHER));
  const out = new Float32Array(count * BANDS);
  for (let i = 0; i < count * TOGETHER && i < frames; i++) {
    for (let band = 0; band < BANDS; band++) out[Math.floor(i / TOGETHER) * BANDS + band] += power[i * BANDS + band];
  }
  return { frames: count, power: out };
}

const partOf = ({ power }: BandLevels, from: number, frames: number): BandLevels => ({
  frames,
  power: power.subarray(from * BANDS, (from + frames) * BANDS),
});

/** The course of each band: the logarithm of what is heard of its power, less its mean; of the first `bands` of them. */
function courseOf(levels: BandLevels, bands: number): Float32Array {
  const means = bandMeans(levels);
  const floor = (UNHEARD * means.reduce((sum, mean) => sum + mean, 0)) / BANDS + 1e-20;
  const out = new Float32Array(levels.frames * bands);
  for (let band = 0; band < bands; band++) {
    let sum = 0;
    for (let frame = 0; frame < levels.frames; frame++) {
      out[frame * bands + band] = Math.log(levels.power[frame * BANDS + band] + floor);
      sum += out[frame * bands + band];
    }
    for (let frame = 0; frame < levels.frames; frame++) out[frame * bands + band] -= sum / levels.frames;
  }
  return out;
}

/** Their correlation; 0 if one of them has no course. */
function correlation(a: Float32Array, b: Float32Array): number {
  let [product, first, second] = [0, 0, 0];
  for (let i = 0; i < a.length; i++) {
    product += a[i] * b[i];
    first += a[i] ** 2;
    second += b[i] ** 2;
  }
  return first * second > 0 ? product / Math.sqrt(first * second) : 0;
}

/** Logarithms as `courseOf` takes them, each over what is not heard beside what lies within `span` frames around it. */
function logsOf({ frames, power }: BandLevels, span: number, bands: number): Float32Array {
  const sums = new Float64Array(frames + 1);
  for (let frame = 0; frame < frames; frame++) {
    let sum = 0;
    for (let band = 0; band < BANDS; band++) sum += power[frame * BANDS + band];
    sums[frame + 1] = sums[frame] + sum / BANDS;
  }
  const out = new Float32Array(frames * bands);
  for (let frame = 0; frame < frames; frame++) {
    const from = Math.max(0, frame - Math.floor(span / 2));
    const to = Math.min(frames, from + span);
    const floor = (UNHEARD * (sums[to] - sums[from])) / (to - from) + 1e-20;
    for (let band = 0; band < bands; band++) {
      out[frame * bands + band] = Math.log(power[frame * BANDS + band] + floor);
    }
  }
  return out;
}

/** Where a sound is most like another one, at a first look, the likest first. */
function likelyPlaces(sound: BandLevels, whole: BandLevels, bands: number): readonly number[] {
  const own = courseOf(sound, bands);
  const logs = logsOf(whole, sound.frames, bands);
  const alike = Array.from({ length: whole.frames - sound.frames + 1 }, (_, offset) => {
    const at = offset * bands;
    const sums = new Float64Array(bands);
    let [product, squares] = [0, 0];
    for (let i = 0; i < own.length; i += bands) {
      for (let band = 0; band < bands; band++) {
        const value = logs[at + i + band];
        product += own[i + band] * value;
        squares += value * value;
        sums[band] += value;
      }
    }
    const spread = squares - sums.reduce((sum, one) => sum + one * one, 0) / sound.frames;
    return { offset, score: product / Math.sqrt(Math.max(spread, 1e-9)) };
  });
  return alike
    .sort((a, b) => b.score - a.score)
    .slice(0, CLOSER)
    .map(({ offset }) => offset);
}

/**
 * How alike a sound is to its likest cut of another one, or another one to its likest cut of it, -1..1: whatever the level of
 * each, and how much of the other is left out.
 * @param highest Hz: what lies above is not compared
 */
export function likestCut(one: BandLevels, other: BandLevels, highest = BANDS_RATE): number {
  const [sound, whole] = one.frames <= other.frames ? [one, other] : [other, one];
  const bands = Array.from({ length: BANDS }, (_, band) => band).filter(
    (band) => bandStart(band + 1) <= highest,
  ).length;
  if (bands === 0) return 0;
  const [few, all] = [pooled(sound), pooled(whole)];
  const last = whole.frames - sound.frames;
  const near = likelyPlaces(few, all, bands).flatMap((offset) =>
    Array.from({ length: 2 * TOGETHER + 1 }, (_, i) => (offset - 1) * TOGETHER + i),
  );
  const offsets = [...new Set(near.map((offset) => Math.min(last, Math.max(0, offset))))];
  const own = courseOf(sound, bands);
  return Math.max(...offsets.map((offset) => correlation(own, courseOf(partOf(whole, offset, sound.frames), bands))));
}
