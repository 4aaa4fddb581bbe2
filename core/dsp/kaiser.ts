/**
 * Kaiser's window and his two design formulas, as in Oppenheim and Schafer, "Discrete-Time Signal Processing",
 * section 7.5 (from memory).
 */

/** Modified Bessel function of the first kind, order 0, by its power series; relative error below 1e-15 for |x| < 40. */
export function besselI0(x: number): number {
  const quarter = (x * x) / 4;
  let term = 1;
  let sum = 1;
  for (let k = 1; term > sum * 1e-17; k++) {
    term *= quarter / (k * k);
    sum += term;
  }
  return sum;
}

/** Shape parameter for a stop band `attenuation` dB down (above 50 dB): 0.1102 (A - 8.7). */
export const kaiserBeta = (attenuation: number): number => 0.1102 * (attenuation - 8.7);

/** Length in taps for a transition `width` in cycles per sample: (A - 8) / (2.285 x 2 pi width). */
export const kaiserLength = (attenuation: number, width: number): number =>
  (attenuation - 8) / (2.285 * 2 * Math.PI * width);

/** sin(pi x) / (pi x). */
export const sinc = (x: number): number => (x === 0 ? 1 : Math.sin(Math.PI * x) / (Math.PI * x));
