/**
 * Sines, powers and logarithms of different engines differ in the last binary digits; sums, products, quotients and roots
 * do not. Rounded to a grid such a number is the same everywhere, but for a chance of one in a hundred thousand or less
 * that a step of the grid lies between two engines' answers. What decides over the bytes of a file goes through here.
 * @param step the grid; its usual one is fine enough for the poles of filters
 */
export const steady = (value: number, step = 2 ** -36): number => Math.round(value / step) * step;

/** 2^21 + 1: of the 53 binary digits of a number 32 stay. */
const SPLITTER = 2 ** 21 + 1;

/** The same for numbers of any size: rounded to 32 binary digits, by sums and a product (Veltkamp's splitting; from memory). */
export function steadyDigits(value: number): number {
  const large = value * SPLITTER;
  return large - (large - value);
}
