import { deviation } from '../../kernel/samples.ts';
import { span } from '../../kernel/whole-numbers.ts';
import type { RenderReport } from '../report.ts';

/** What rounding and encoding cost: the power of the sound and of the error, and the levels that were used. */
export class RoundingMeter {
  private readonly bits: number;
  private signal = 0;
  private noise = 0;
  private lowest = Number.POSITIVE_INFINITY;
  private highest = Number.NEGATIVE_INFINITY;

  constructor(bits: number) {
    this.bits = bits;
  }

  levels(levels: readonly Int32Array[]): void {
    for (const channel of levels) {
      const [lowest, highest] = span(channel);
      this.lowest = Math.min(this.lowest, lowest);
      this.highest = Math.max(this.highest, highest);
    }
  }

  /** Levels beside what they stand for. */
  rounded(exact: Float32Array, levels: Int32Array): void {
    const scale = 2 ** (this.bits - 1);
    // With one bit there is no level for silence: what it stands for lies half a level up.
    const offset = this.bits === 1 ? 0.5 : 0;
    let { signal, noise } = this;
    for (let i = 0; i < exact.length; i++) {
      const error = (levels[i] + offset) / scale - exact[i];
      signal += exact[i] * exact[i];
      noise += error * error;
    }
    this.signal = signal;
    this.noise = noise;
  }

  /** Decoded samples beside what they stand for. */
  decoded(exact: Float32Array, decoded: Float32Array): void {
    const { signal, noise } = deviation(exact, decoded);
    this.signal += signal;
    this.noise += noise;
  }

  measured(): Pick<RenderReport, 'signalToNoiseDb' | 'rangeUsed'> {
    return {
      signalToNoiseDb: this.signal > 0 && this.noise > 0 ? 10 * Math.log10(this.signal / this.noise) : null,
      rangeUsed: (this.highest - this.lowest + 1) / 2 ** this.bits,
    };
  }
}
