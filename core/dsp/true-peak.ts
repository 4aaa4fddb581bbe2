import { peakOf } from '../audio/index.ts';
import { interpolatedPeakKernel, MOST_SAMPLES, type PeakKernel, TAPS } from '../kernel/interpolated-peak.ts';

/**
 * True peak as in ITU-R BS.1770-4, annex 2: the highest magnitude after fourfold oversampling with the 48-tap
 * interpolation filter given there (from memory). The filter's second half mirrors the first.
 */
const PHASE_0 = Float64Array.of(
  0.001708984375,
  0.010986328125,
  -0.0196533203125,
  0.033203125,
  -0.0594482421875,
  0.1373291015625,
  0.97216796875,
  -0.102294921875,
  0.047607421875,
  -0.026611328125,
  0.014892578125,
  -0.00830078125,
);
const PHASE_1 = Float64Array.of(
  -0.0291748046875,
  0.029296875,
  -0.0517578125,
  0.089111328125,
  -0.16650390625,
  0.465087890625,
  0.77978515625,
  -0.2003173828125,
  0.1015625,
  -0.0582275390625,
  0.0330810546875,
  -0.0189208984375,
);
/** The kernel wants the coefficient of the oldest sample first. Phases 2 and 3 mirror 1 and 0. */
const OLDEST_FIRST = [PHASE_0.toReversed(), PHASE_1.toReversed()] as const;

/** No output exceeds the largest input by more than this: the largest sum of a phase's magnitudes. */
const MOST_GAIN = Math.max(
  ...[PHASE_0, PHASE_1].map((phase) => phase.reduce((sum, value) => sum + Math.abs(value), 0)),
);

/** Made at first use; every meter uses the same. */
let kernel: PeakKernel | undefined;

/** Gathers the true peak of one channel block by block. */
export class TruePeakMeter {
  private peak = 0;
  /** The samples before the next piece, and the piece. */
  private readonly joined = new Float32Array(TAPS - 1 + MOST_SAMPLES);

  add(samples: Float32Array): void {
    for (let at = 0; at < samples.length; at += MOST_SAMPLES) this.addPiece(samples.subarray(at, at + MOST_SAMPLES));
  }

  private addPiece(samples: Float32Array): void {
    const joined = this.joined;
    const end = TAPS - 1 + samples.length;
    joined.set(samples, TAPS - 1);
    const piece = joined.subarray(0, end);
    const highest = peakOf(piece);
    if (highest > this.peak) this.peak = highest;
    // Where all is too quiet to matter, nothing is interpolated.
    if (highest * MOST_GAIN > this.peak) {
      kernel ??= interpolatedPeakKernel(OLDEST_FIRST);
      this.peak = Math.max(this.peak, kernel(piece, samples.length));
    }
    joined.copyWithin(0, samples.length, end);
  }

  /** Linear, relative to full scale; at least the sample peak. Takes the sound as ended. */
  result(): number {
    this.add(new Float32Array(TAPS - 1));
    return this.peak;
  }
}
