import { describe, expect, test } from 'vitest';
import { marksOf } from './marks.ts';
import { snapped } from './snap.ts';
import { extentOfSamples } from './waveform.ts';

const cut = { start: 1000, end: 5000 };
const grid = {
  block: 240,
  bar: 1500,
  silences: [
    { from: 0, to: 900 },
    { from: 6000, to: 8000 },
  ],
  reach: 50,
};

describe('an end that is dragged', () => {
  test.each([
    ['off', 'end', 4321, 4321],
    ['zero', 'end', 4321, 4321],
    // 14 blocks of 240 are 3 360 frames.
    ['block', 'end', 4321, 1000 + 14 * 240],
    ['block', 'start', 1010, 5000 - 17 * 240],
    ['block', 'end', 900, 1000 + 240],
    ['bar', 'end', 4321, 1000 + 2 * 1500],
    ['bar', 'start', 2100, 5000 - 2 * 1500],
    ['silence', 'end', 5970, 6000],
    ['silence', 'end', 5900, 5900],
    ['silence', 'start', 910, 900],
  ] as const)('%s: the %s at %i goes to %i', (snap, edge, frame, wanted) =>
    expect(snapped(snap, edge, frame, cut, grid)).toBe(wanted));

  test('what the device does not have draws nothing', () => {
    for (const snap of ['block', 'bar', 'silence'] as const) {
      expect(snapped(snap, 'end', 4321, cut, { ...grid, block: null, bar: null, silences: [] })).toBe(4321);
    }
  });
});

test('what is flattened and what is silent is marked, in either channel', () => {
  const left = new Float32Array(1000).fill(0.5);
  const right = new Float32Array(1000).fill(0.5);
  right[300] = -1;
  for (const samples of [left, right]) samples.fill(0, 600, 800);
  left.fill(0, 850, 900);
  const marks = (width: number) => marksOf(extentOfSamples([left, right]), 2, { from: 0, to: 1000 }, width);
  expect(marks(1000)).toEqual({ flattened: [{ from: 300, to: 301 }], silences: [{ from: 600, to: 800 }] });
  expect(marks(100)).toEqual({ flattened: [{ from: 300, to: 310 }], silences: [{ from: 600, to: 800 }] });
  // Too few pixels to be worth it.
  expect(marks(20).silences).toEqual([]);
});
