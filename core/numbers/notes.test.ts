import { expect, test } from 'vitest';
import { noteOf } from './notes.ts';

// Frequencies of equal temperament as any handbook of acoustics tables them.
test.each([
  [440, 'A4'],
  [261.626, 'C4'],
  [27.5, 'A0'],
  [4186.01, 'C8'],
  [466.164, 'A♯4'],
  [246.942, 'B3'],
  [445, 'A4 +20'],
  [430, 'A4 −40'],
  [16.3516, 'C0'],
])('%f Hz is %s', (hz, name) => expect(noteOf(hz)).toBe(name));

test('what does not swing has no note', () => {
  expect([noteOf(0), noteOf(-5), noteOf(Number.NaN)]).toEqual([null, null, null]);
});
