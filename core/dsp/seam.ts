/** Where a loop begins and ends. */
export interface Seam {
  /** First frame of the loop, and the first after it, counted from the sound's start. */
  readonly start: number;
  readonly end: number;
  /** How alike the sound is around both, -1..1. */
  readonly likeness: number;
}

/** Frames on either side of the seam that are compared. */
const REACH_SECONDS = 0.01;
/** Most places that are tried at either end. */
const MOST_PLACES = 250;

/** Places where the sound goes up through zero, thinned out to so many. */
function risingZeros(samples: Float32Array, from: number, to: number): number[] {
  const places: number[] = [];
  for (let i = Math.max(1, from); i < to; i++) if (samples[i - 1] < 0 && samples[i] >= 0) places.push(i);
  const every = Math.ceil(places.length / MOST_PLACES);
  return places.filter((_, i) => i % every === 0);
}

/**
 * The best seam of a loop: among places near the start and near the end where the sound goes up through zero, the two
 * around which it is most alike (normalised correlation). Of equally good ones those that keep more of the sound.
 * @param head the sound's beginning, `lead` frames of which must stay in front of the loop
 * @param tail the sound's end; the whole sound has `frames` frames
 */
export function bestSeam(head: Float32Array, tail: Float32Array, frames: number, sampleRate: number, lead = 0): Seam {
  const reach = Math.max(4, Math.round(REACH_SECONDS * sampleRate));
  const starts = [lead, ...risingZeros(head, lead + 1, head.length - reach)];
  // The last place that can be compared on both sides is tried too: silence has no zero crossings.
  const ends = [tail.length - reach, ...risingZeros(tail, reach, tail.length - reach)];
  const offset = frames - tail.length;
  let best: Seam = { start: lead, end: frames, likeness: likeness(head, lead, tail, tail.length, reach) };
  let bestScore = Number.NEGATIVE_INFINITY;
  for (const start of starts) {
    for (const end of ends) {
      if (end + offset - start < 2 * reach) continue;
      const alike = likeness(head, start, tail, end, reach);
      // Two of equal likeness: the one that leaves away less, by up to a hundredth.
      const lost = (start - lead) / (head.length || 1) + (tail.length - end) / (tail.length || 1);
      const score = alike - 0.005 * lost;
      if (score > bestScore) {
        bestScore = score;
        best = { start, end: end + offset, likeness: alike };
      }
    }
  }
  return best;
}

/** Correlation of what is around `a` in `x` and around `b` in `y`, as far as both reach. */
function likeness(x: Float32Array, a: number, y: Float32Array, b: number, reach: number): number {
  const from = Math.max(-reach, -a, -b);
  const to = Math.min(reach, x.length - a, y.length - b);
  if (to <= from) return 0;
  let product = 0;
  let powerX = 0;
  let powerY = 0;
  for (let i = from; i < to; i++) {
    product += x[a + i] * y[b + i];
    powerX += x[a + i] ** 2;
    powerY += y[b + i] ** 2;
  }
  return powerX > 0 && powerY > 0 ? product / Math.sqrt(powerX * powerY) : powerX === powerY ? 1 : 0;
}
