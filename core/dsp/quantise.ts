/** `none` rounds to the nearest level; `triangular` adds noise of triangular density, 2 levels wide, before rounding. */
export type Dither = 'none' | 'triangular';

/** Repeatable random numbers in [0, 1): a 32-bit linear congruential state with a mixed output (mulberry32 form). */
export function seededRandom(seed: number): () => number {
  let state = seed | 0;
  return () => {
    state = (state + 0x6d2b79f5) | 0;
    let mixed = Math.imul(state ^ (state >>> 15), state | 1);
    mixed ^= mixed + Math.imul(mixed ^ (mixed >>> 7), mixed | 61);
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 4294967296;
  };
}

/** Integers of `channels` and how many frames had to be held at the ends of the range. */
export interface Quantised {
  readonly channels: Int32Array[];
  /** Frames in which the sound exceeded full scale before dither: what flattens. */
  readonly clippedFrames: number;
}

/**
 * Rounds nominal -1..1 to signed integers of `bits` (2..32): value x 2^(bits - 1), nearest, halves upward, held in
 * range. Triangular dither is the difference of two uniform numbers (variance 1/6 level squared), one stream for each
 * channel, seeded with `seed` + channel: same input, same seed, same integers.
 */
export function quantise(channels: readonly Float32Array[], bits: number, dither: Dither, seed: number): Quantised {
  const scale = 2 ** (bits - 1);
  const highest = scale - 1;
  const frames = channels[0]?.length ?? 0;
  const clipped = new Uint8Array(frames);
  let clippedFrames = 0;
  const integers = channels.map((samples, channel) => {
    const random = seededRandom(seed + channel);
    const out = new Int32Array(frames);
    for (let i = 0; i < frames; i++) {
      const exact = samples[i] * scale;
      if (exact > highest + 0.5 || exact < -scale - 0.5) {
        clippedFrames += 1 - clipped[i];
        clipped[i] = 1;
      }
      const noise = dither === 'triangular' ? random() - random() : 0;
      out[i] = Math.max(-scale, Math.min(highest, Math.floor(exact + noise + 0.5)));
    }
    return out;
  });
  return { channels: integers, clippedFrames };
}
