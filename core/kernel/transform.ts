/** Floats of an element: four real and four imaginary parts, one for each of the transforms that go side by side. */
export const ELEMENT_FLOATS = 8;

/**
 * Radices that the kernel knows, in the order in which the passes take them: the last turns nothing, so a large one is best
 * there.
 */
export const RADICES = [4, 2, 3, 5, 7] as const;

/** Plan for a transform of a fixed number of complex numbers. */
export interface TransformPlan {
  /** Product of the radices, one for each pass. */
  readonly count: number;
  readonly radices: readonly number[];
  /** For each pass, each element of its first group, each result but the first: cosine and sine of its turn. */
  readonly factors: Float32Array;
  /** Where bin k is found afterwards, in elements. */
  readonly places: Uint32Array;
}

const { fround } = Math;

/** In place, as transform.as.ts does it, one transform alone: every step rounded to 32 bits, in the same order. */
export function transformTwin({ count, radices, factors }: TransformPlan, re: Float32Array, im: Float32Array): void {
  let length = count;
  let at = 0;
  for (const radix of radices) {
    const step = length / radix;
    for (let base = 0; base < count; base += length) {
      for (let j = 0; j < step; j++) {
        const xr = Array.from({ length: radix }, (_, q) => re[base + j + q * step]);
        const xi = Array.from({ length: radix }, (_, q) => im[base + j + q * step]);
        const [yr, yi] = radix % 2 === 0 ? evenButterfly(xr, xi) : oddButterfly(xr, xi);
        for (let q = 0; q < radix; q++) {
          const place = base + j + q * step;
          if (q === 0 || step === 1) {
            re[place] = yr[q];
            im[place] = yi[q];
          } else {
            const c = factors[at + 2 * (j * (radix - 1) + q - 1)];
            const s = factors[at + 2 * (j * (radix - 1) + q - 1) + 1];
            re[place] = fround(yr[q] * c) - fround(yi[q] * s);
            im[place] = fround(yr[q] * s) + fround(yi[q] * c);
          }
        }
      }
    }
    at += 2 * step * (radix - 1);
    length = step;
  }
}

type Complex = readonly [re: readonly number[], im: readonly number[]];

function evenButterfly(xr: readonly number[], xi: readonly number[]): Complex {
  const half = xr.length / 2;
  const sum = (x: readonly number[], q: number) => fround(x[q] + x[q + half]);
  const difference = (x: readonly number[], q: number) => fround(x[q] - x[q + half]);
  if (half === 1) {
    return [
      [sum(xr, 0), difference(xr, 0)],
      [sum(xi, 0), difference(xi, 0)],
    ];
  }
  const [ar, ai, br, bi] = [sum(xr, 0), sum(xi, 0), difference(xr, 0), difference(xi, 0)];
  const [cr, ci, dr, di] = [sum(xr, 1), sum(xi, 1), difference(xr, 1), difference(xi, 1)];
  return [
    [fround(ar + cr), fround(br + di), fround(ar - cr), fround(br - di)],
    [fround(ai + ci), fround(bi - dr), fround(ai - ci), fround(bi + dr)],
  ];
}

/** Radix 3, 5 or 7: results k and radix - k are the cosine sums of what is alike in both, and differ by the sine sums. */
function oddButterfly(xr: readonly number[], xi: readonly number[]): Complex {
  const radix = xr.length;
  const pairs = Array.from({ length: (radix - 1) / 2 }, (_, q) => q + 1);
  const weighed = (start: number, weight: (q: number) => number, x: readonly number[], sign: number) =>
    pairs.reduce((sum, q) => fround(sum + fround(weight(q) * fround(x[q] + sign * x[radix - q]))), start);
  const [yr, yi]: [number[], number[]] = [[], []];
  yr[0] = weighed(xr[0], () => 1, xr, 1);
  yi[0] = weighed(xi[0], () => 1, xi, 1);
  for (const k of pairs) {
    const angle = (q: number) => (2 * Math.PI * k * q) / radix;
    const cosine = (q: number) => fround(Math.cos(angle(q)));
    const sine = (q: number) => fround(Math.sin(angle(q)));
    const [mr, mi] = [weighed(xr[0], cosine, xr, 1), weighed(xi[0], cosine, xi, 1)];
    const [nr, ni] = [weighed(-0, sine, xr, -1), weighed(-0, sine, xi, -1)];
    yr[k] = fround(mr + ni);
    yi[k] = fround(mi - nr);
    yr[radix - k] = fround(mr - ni);
    yi[radix - k] = fround(mi + nr);
  }
  return [yr, yi];
}
