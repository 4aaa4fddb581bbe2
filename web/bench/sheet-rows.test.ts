import type { Finding } from '@tambur/core';
import { expect, test } from 'vitest';
import { readingOrder, sheetRows } from './sheet-rows.ts';

const finding = (requirement: Finding['requirement'], wanted: string, found: string): Finding => ({
  key: requirement,
  requirement,
  title: requirement,
  wanted,
  found,
  verdict: wanted === found ? 'meets' : 'breaks',
  mend: wanted === found ? '' : 'resample it',
});

const source = [finding('container', 'WAV', 'MP3'), finding('sample-rate', '8 000 Hz', '44 100 Hz')];

test('findings stand beside those about the same, wherever they come in the list', () => {
  const result = [finding('sample-rate', '8 000 Hz', '8 000 Hz'), finding('container', 'WAV', 'WAV')];
  expect(sheetRows(source, result)).toMatchObject([
    { was: source[0], is: result[1] },
    { was: source[1], is: result[0] },
  ]);
});

test('an answer to another variant of the sheet stands beside no row of this one', () => {
  const older = [finding('container', 'WAV', 'WAV'), finding('sample-rate', '16 000 Hz', '16 000 Hz')];
  expect(sheetRows(source, older).slice(0, 2)).toMatchObject([
    { was: source[0], is: older[0] },
    { was: source[1], is: null },
  ]);
});

test('two requirements of one kind are two rows', () => {
  const peaks = [finding('peak', '−1 dBFS', '0 dBFS'), finding('peak', '−3 dBFS', '0 dBFS')];
  const after = [finding('peak', '−3 dBFS', '−3 dBFS'), finding('peak', '−1 dBFS', '−3 dBFS')];
  expect(sheetRows(peaks, after).map(({ is }) => is)).toEqual([after[1], after[0]]);
});

test('before there is a result nothing is answered; what only the result has comes last', () => {
  expect(sheetRows(source, []).every(({ is }) => is === null)).toBe(true);
  const headroom = finding('headroom', 'no flattened frames', '12 frames');
  expect(sheetRows(source, [headroom]).at(-1)).toEqual({ about: headroom, was: null, is: headroom });
});

test('what breaks is read first, then advice; much that meets is folded, sooner beside trouble', () => {
  const row = (verdict: Finding['verdict'], i: number) => {
    const is = { ...finding('peak', `${i}`, `${i}`), verdict };
    return { about: is, was: null, is };
  };
  const met = (count: number) => Array.from({ length: count }, (_, i) => row('meets', i));
  const [advised, broken, unknown] = [row('advises', 50), row('breaks', 51), row('unknown', 52)];
  const mixed = readingOrder([...met(7), advised, unknown, broken]);
  expect(mixed).toEqual({ open: [broken, advised, unknown], folded: met(7) });
  expect(readingOrder([...met(6), broken])).toEqual({ open: [broken, ...met(6)], folded: [] });
  expect(readingOrder(met(12))).toEqual({ open: met(12), folded: [] });
  expect(readingOrder(met(13)).folded).toHaveLength(13);
  // Before there is a result, nothing is folded away.
  const waiting = sheetRows(source, []);
  expect(readingOrder(waiting)).toEqual({ open: waiting, folded: [] });
});
