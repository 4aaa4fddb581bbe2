/**
 * Sines, powers and logarithms of different engines differ in the last binary digits; sums, products, quotients and roots
 * do not. Rounded to a grid such a number is the same everywhere, but for a chance of one in a hundred thousand or less
 * that a step of the grid lies between two engines' answers. What decides over the bytes of a file goes through here.
 * @param step the grid; its usual one is fine enough for the poles of filters
 */
export const steady = (value: number, step = 2 ** -36): number => Math.round(value / step) * step;

/** The same for numbers of any size: as many digits as a 32-bit floating-point number has. */
export const steadyDigits = (value: number): number => Math.fround(value);
