import { expect, test } from 'vitest';
import { matched } from './use-matching.ts';

test('all sound as loud as the quietest; what nobody has measured stays as it is', () => {
  const gains = matched({ source: -10, result: -16, other: null, quiet: -30 });
  // 20 dB are a factor of ten, 14 dB of five (5.01).
  expect(gains.source).toBeCloseTo(0.1, 9);
  expect(gains.result).toBeCloseTo(1 / 5.01187, 5);
  expect([gains.quiet, gains.other]).toEqual([1, 1]);
  expect(matched({ source: null })).toEqual({ source: 1 });
});
