import { steady } from '../numbers/index.ts';

/** A second-order filter: y = b0 x + b1 x' + b2 x'' - a1 y' - a2 y''. */
export interface Biquad {
  readonly b: readonly [number, number, number];
  readonly a: readonly [number, number];
}

/** The same filter in every engine. */
export const steadyBiquad = ({ b: [b0, b1, b2], a: [a1, a2] }: Biquad): Biquad => ({
  b: [steady(b0), steady(b1), steady(b2)],
  a: [steady(a1), steady(a2)],
});

/** Quality factors of the two halves of a fourth-order Butterworth filter: 1 / (2 cos(pi / 8)), 1 / (2 cos(3 pi / 8)). */
const BUTTERWORTH = [1, 3].map((k) => 1 / (2 * Math.cos((k * Math.PI) / 8)));

/**
 * Fourth-order Butterworth filter (24 dB per octave, 3 dB down at `hz`, which lies below half of `sampleRate`): two
 * sections of R. Bristow-Johnson's "Audio EQ Cookbook", published as a W3C note (from memory).
 */
export const butterworth = (kind: 'high-pass' | 'low-pass', hz: number, sampleRate: number): readonly Biquad[] =>
  BUTTERWORTH.map((q) => {
    const angle = (2 * Math.PI * hz) / sampleRate;
    const cos = Math.cos(angle);
    const alpha = Math.sin(angle) / (2 * q);
    const a0 = 1 + alpha;
    const edge = (kind === 'high-pass' ? 1 + cos : 1 - cos) / 2 / a0;
    const middle = kind === 'high-pass' ? -2 * edge : 2 * edge;
    return steadyBiquad({ b: [edge, middle, edge], a: [(-2 * cos) / a0, (1 - alpha) / a0] });
  });

/** What is smaller has faded away: a state as small as this would only slow the machine down. */
const FADED = 1e-30;
const faded = (state: number): number => (state < FADED && state > -FADED ? 0 : state);

/** Sends one channel through sections one after the other, block by block. Silence stays exactly silence. */
export class FilterCascade {
  private readonly sections: readonly Biquad[];
  /** Two delayed values of each section. */
  private readonly states: Float64Array;

  constructor(sections: readonly Biquad[]) {
    this.sections = sections;
    this.states = new Float64Array(2 * sections.length);
  }

  push(samples: Float32Array): Float32Array {
    const work = Float64Array.from(samples);
    this.sections.forEach(({ b: [b0, b1, b2], a: [a1, a2] }, section) => {
      let u = this.states[2 * section];
      let v = this.states[2 * section + 1];
      // Transposed direct form II.
      for (let i = 0; i < work.length; i++) {
        const x = work[i];
        const y = b0 * x + u;
        u = faded(b1 * x - a1 * y + v);
        v = faded(b2 * x - a2 * y);
        work[i] = y;
      }
      this.states[2 * section] = u;
      this.states[2 * section + 1] = v;
    });
    return Float32Array.from(work);
  }
}
