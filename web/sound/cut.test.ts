import { expect, test } from 'vitest';
import { endAt, startAt } from './cut.ts';

const cut = { start: 100, end: 200 };

test.each([
  [50, [50, 200]],
  [150.4, [150, 200]],
  [300, [300, 1000]],
  [-5, [0, 200]],
  [5000, [999, 1000]],
])('a cut that starts at %d keeps its end, or goes to the end of the source', (frame, expected) => {
  expect(startAt(Math.round(frame), cut, 1000)).toEqual(expected);
});

test.each([
  [150, [100, 150]],
  [60, [0, 60]],
  [0, [0, 1]],
  [5000, [100, 1000]],
])('a cut that ends at %d keeps its start, or begins with the source', (frame, expected) => {
  expect(endAt(frame, cut, 1000)).toEqual(expected);
});
