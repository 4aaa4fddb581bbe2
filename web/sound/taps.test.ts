import { expect, test } from 'vitest';
import { tempoOfTaps, withTap } from './taps.ts';

const tapped = (...times: readonly number[]) => times.reduce<readonly number[]>(withTap, []);

test.each([
  [[0], null],
  [[0, 500], null],
  [[0, 500, 1000], 120],
  // One a little early, one a little late: the mean counts.
  [[0, 640, 1270, 1935], 93.02],
  // Whoever pauses begins again.
  [[0, 500, 1000, 9000, 9600], null],
  [[0, 500, 1000, 9000, 9600, 10_200], 100],
])('taps at %j are %s a minute', (times, wanted) => {
  const found = tempoOfTaps(tapped(...times));
  if (wanted === null) expect(found).toBeNull();
  else expect(found).toBeCloseTo(wanted, 2);
});

test('of many taps the last twelve count', () => {
  const slow = Array.from({ length: 20 }, (_, i) => i * 1000);
  const fast = Array.from({ length: 12 }, (_, i) => 19_500 + i * 500);
  expect(tempoOfTaps(tapped(...slow, ...fast))).toBeCloseTo(120, 6);
});
