import { squares } from '../kernel/samples.ts';
import { PEAK_STEP, PEAK_STEPS } from './peaks.ts';

/**
 * How strong a sound is beside its peaks: for each run of `step` frames the mean of the squares, bin by bin, channel by
 * channel. Its root is the effective value of that run.
 */
export interface Powers {
  readonly step: number;
  readonly channelCount: number;
  readonly values: Float32Array;
}

/** Gathers the powers of all steps at which peaks are stored, block by block. */
export class PowersBuilder {
  private readonly channelCount: number;
  /** Sums of squares at the finest step. */
  private sums = new Float64Array(1 << 13);
  private frames = 0;

  constructor(channelCount: number) {
    this.channelCount = channelCount;
  }

  /** Takes the next frames of the same channels. */
  add(channels: readonly Float32Array[]): void {
    const count = channels[0]?.length ?? 0;
    this.makeRoom(Math.ceil((this.frames + count) / PEAK_STEP));
    for (let at = 0; at < count; ) {
      const begun = (this.frames + at) % PEAK_STEP;
      const place = Math.floor((this.frames + at) / PEAK_STEP) * this.channelCount;
      const bins = begun === 0 ? Math.floor((count - at) / PEAK_STEP) : 0;
      const end = bins > 0 ? at + bins * PEAK_STEP : Math.min(count, at + PEAK_STEP - begun);
      for (let channel = 0; channel < this.channelCount; channel++) {
        const samples = channels[channel].subarray(at, end);
        if (bins > 0) squares(samples, PEAK_STEP, this.sums, place + channel, this.channelCount);
        else for (const sample of samples) this.sums[place + channel] += sample * sample;
      }
      at = end;
    }
    this.frames += count;
  }

  private makeRoom(bins: number): void {
    const needed = bins * this.channelCount;
    if (needed <= this.sums.length) return;
    const larger = new Float64Array(Math.max(needed, this.sums.length * 2));
    larger.set(this.sums);
    this.sums = larger;
  }

  /** Values of every stored step, finest first. Takes the sound as ended. */
  levels(): Float32Array[] {
    const finest = Math.ceil(this.frames / PEAK_STEP);
    return PEAK_STEPS.map((step) => {
      const factor = step / PEAK_STEP;
      const sums = new Float64Array(Math.ceil(finest / factor) * this.channelCount);
      for (let bin = 0; bin < finest; bin++) {
        for (let channel = 0; channel < this.channelCount; channel++) {
          sums[Math.floor(bin / factor) * this.channelCount + channel] += this.sums[bin * this.channelCount + channel];
        }
      }
      // The last bin may cover fewer frames.
      return Float32Array.from(sums, (sum, i) => {
        const first = Math.floor(i / this.channelCount) * step;
        return sum / (Math.min(this.frames, first + step) - first);
      });
    });
  }
}
