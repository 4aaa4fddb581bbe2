import { expect, test } from 'vitest';
import { endAt, startAt, withEdge } from './cut.ts';

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

test.each([
  ['start', 50, { start: 50, end: 200 }],
  ['start', 250, { start: 199, end: 200 }],
  ['end', 150, { start: 100, end: 150 }],
  ['end', 20, { start: 100, end: 101 }],
] as const)('the %s of a cut brought to frame %i leaves a frame at least', (edge, frame, cut) => {
  expect(withEdge({ start: 100, end: 200 }, edge, frame)).toEqual(cut);
});
