import { expect, test } from 'vitest';
import { nearestZeroCrossing } from './zero-crossing.ts';

// A period of 100 frames that is zero between two of them: the sign changes at 26, 76, 126 …
const tone = Float32Array.from({ length: 400 }, (_, i) => Math.cos((2 * Math.PI * (i - 0.5)) / 100));

test.each([
  [26, 26],
  [30, 26],
  [60, 76],
  [0, 26],
  [399, 376],
])('near %i it is %i', (near, wanted) => expect(nearestZeroCrossing([tone], near)).toBe(wanted));

test('of several channels their sum counts; where there is none, there is none', () => {
  const lifted = tone.map((value) => value + 0.5);
  expect(nearestZeroCrossing([lifted, tone.map((value) => value - 0.5)], 60)).toBe(76);
  expect(nearestZeroCrossing([tone.map((value) => value + 2)], 60)).toBeNull();
  expect(nearestZeroCrossing([], 0)).toBeNull();
  expect(nearestZeroCrossing([new Float32Array(9)], 4)).toBe(4);
});
