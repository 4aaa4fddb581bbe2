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

/** Made at first use; every meter uses the same. */
let kernel: PeakKernel | undefined;

const KEPT = TAPS - 1;

/** Gathers the true peak of one channel block by block. */
export class TruePeakMeter {
  private peak = 0;
  /** The last samples that came, and room for as many of the next. */
  private readonly seam = new Float32Array(2 * KEPT);

  add(samples: Float32Array): void {
    kernel ??= interpolatedPeakKernel(OLDEST_FIRST);
    const seam = this.seam;
    const next = samples.subarray(0, KEPT);
    if (next.length === 0) return;
    seam.set(next, KEPT);
    this.peak = kernel(seam.subarray(0, KEPT + next.length), this.peak);
    for (let at = 0; at + KEPT < samples.length; at += MOST_SAMPLES) {
      this.peak = kernel(samples.subarray(at, at + MOST_SAMPLES + KEPT), this.peak);
    }
    if (next.length < KEPT) seam.copyWithin(0, next.length, KEPT + next.length);
    else seam.set(samples.subarray(samples.length - KEPT));
  }

  /** Linear, relative to full scale; at least the sample peak. Takes the sound as ended. */
  result(): number {
    this.add(new Float32Array(KEPT));
    return this.peak;
  }
}
