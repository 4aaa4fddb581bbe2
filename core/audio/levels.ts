import { highest, pairLevels } from '../kernel/samples.ts';

/** What was measured over a whole sound. Linear values relative to full scale (1 = 0 dBFS). */
export interface Levels {
  /** Per channel: the largest magnitude. */
  readonly peak: readonly number[];
  /** Per channel: root of the mean square. */
  readonly rms: readonly number[];
  /** Per channel: mean, the DC offset. */
  readonly dcOffset: readonly number[];
  /** Frames of which some channel reaches full scale (at least 32 767 / 32 768). */
  readonly fullScaleFrames: number;
  /** Of the first two channels, -1..1; null for mono or where one channel is silent. */
  readonly correlation: number | null;
}

const FULL_SCALE = 32767 / 32768;

/** A channel below this (-80 dBFS RMS) counts as dead beside one that carries sound. Common practice, no source. */
const DEAD_BELOW = 1e-4;

/** Largest magnitude of `samples`. */
export const peakOf = (samples: Float32Array): number => highest(samples);

/** Gathers `Levels` block by block; every `add` takes the next frames of the same channels. */
export class LevelMeter {
  private readonly peak: number[];
  private readonly sum: number[];
  private readonly square: number[];
  private product = 0;
  private fullScaleFrames = 0;
  private frames = 0;

  constructor(channelCount: number) {
    this.peak = new Array(channelCount).fill(0);
    this.sum = new Array(channelCount).fill(0);
    this.square = new Array(channelCount).fill(0);
  }

  add(channels: readonly Float32Array[]): void {
    let blockPeak = 0;
    for (let first = 0; first < channels.length; first += 2) {
      const pair = channels.slice(first, first + 2);
      const found = pairLevels(pair[0], pair[1] ?? pair[0]);
      pair.forEach((_, side) => {
        blockPeak = Math.max(blockPeak, found.peaks[side]);
        this.peak[first + side] = Math.max(this.peak[first + side], found.peaks[side]);
        this.sum[first + side] += found.sums[side];
        this.square[first + side] += found.squares[side];
      });
      if (first === 0 && pair.length === 2) this.product += found.products;
    }
    const count = channels[0]?.length ?? 0;
    // Frames are looked at one by one only where some channel of this block reaches full scale at all.
    if (blockPeak >= FULL_SCALE) {
      for (let i = 0; i < count; i++) {
        if (channels.some((samples) => Math.abs(samples[i]) >= FULL_SCALE)) this.fullScaleFrames++;
      }
    }
    this.frames += count;
  }

  result(): Levels {
    const n = Math.max(1, this.frames);
    const power = this.square.length > 1 ? Math.sqrt(this.square[0] * this.square[1]) : 0;
    return {
      peak: [...this.peak],
      rms: this.square.map((square) => Math.sqrt(square / n)),
      dcOffset: this.sum.map((sum) => sum / n),
      fullScaleFrames: this.fullScaleFrames,
      correlation: power > 0 ? Math.max(-1, Math.min(1, this.product / power)) : null,
    };
  }
}

/** Index of channels that carry nothing while another does; empty if all are silent. */
export function deadChannels(levels: Levels): number[] {
  const alive = levels.rms.map((rms) => rms > DEAD_BELOW);
  return alive.includes(true) ? alive.flatMap((isAlive, channel) => (isAlive ? [] : [channel])) : [];
}
