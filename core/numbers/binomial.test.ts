import { expect, test } from 'vitest';
import { chanceOfGuessing } from './binomial.ts';

// Of ten: 1 - the cumulative binomial probabilities for p = 0.5 in the tables of any handbook of statistics (0.9990 for 9,
// 0.9893 for 8, 0.9453 for 7, 0.8281 for 6); of sixteen: 12 or more is the usual limit of 0.05 in blind listening.
test.each([
  [10, 10, 1 / 1024],
  [9, 10, 1 - 0.9893],
  [8, 10, 1 - 0.9453],
  [7, 10, 1 - 0.8281],
  [12, 16, 0.0384],
  [11, 16, 0.1051],
  [0, 5, 1],
  [0, 0, 1],
])('%i of %i by guessing', (right, rounds, wanted) => expect(chanceOfGuessing(right, rounds)).toBeCloseTo(wanted, 4));

test('a thousand rounds are counted as well', () => {
  expect(chanceOfGuessing(500, 1000)).toBeCloseTo(0.5126, 3);
  expect(chanceOfGuessing(600, 1000)).toBeLessThan(1e-9);
});
