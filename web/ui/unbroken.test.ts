import { expect, test } from 'vitest';
import { unbroken } from './unbroken.ts';

test.each([
  ['at most 4.000 s', 'at most 4.000\u00a0s'],
  ['240 to 16 080 frames, in blocks of 240', '240 to 16 080\u00a0frames, in blocks of 240'],
  ['3 % of 2 kB', '3\u00a0% of 2\u00a0kB'],
  ['C header', 'C header'],
])('"%s" is parted nowhere but between words', (words, kept) => {
  expect(unbroken(words)).toBe(kept);
});
