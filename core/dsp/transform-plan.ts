import { RADICES, type TransformPlan } from '../kernel/transform.ts';
import { steady } from '../numbers/index.ts';

export type Radix = (typeof RADICES)[number];

/** The radices of the passes for `count` elements, or null if it has other prime factors. */
export function radicesOf(count: number): readonly Radix[] | null {
  const radices: Radix[] = [];
  let left = count;
  for (const radix of RADICES) {
    for (; left % radix === 0; left /= radix) radices.push(radix);
  }
  return left === 1 ? radices : null;
}

/**
 * How `count` elements are transformed.
 * @throws RangeError for a count that has other prime factors than the radices
 */
export function transformPlan(count: number): TransformPlan {
  const radices = radicesOf(count);
  if (!radices) throw new RangeError(`${count} has prime factors above 7`);
  const sizes = radices.map((_, i) => radices.slice(i).reduce((product, radix) => product * radix, 1));
  const pairs = radices.reduce((sum, radix, i) => sum + (sizes[i] / radix) * (radix - 1), 0);
  const factors = new Float32Array(2 * pairs);
  const places = new Uint32Array(count);
  let at = 0;
  radices.forEach((radix, i) => {
    const step = sizes[i] / radix;
    const stride = count / sizes[i];
    for (let j = 0; j < step; j++) {
      for (let q = 1; q < radix; q++) {
        const turn = (j * q * stride) % count;
        const angle = (2 * Math.PI * turn) / count;
        factors[at++] = steady(Math.cos(angle));
        factors[at++] = steady(-Math.sin(angle));
      }
    }
    // The places of the first `stride` are known; those with another digit of this radix are so many steps beyond.
    for (let k = stride; k < stride * radix; k++) places[k] = places[k - stride] + step;
  });
  return { count, radices, factors, places };
}
