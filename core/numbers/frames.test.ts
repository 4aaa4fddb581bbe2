import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { barFrames, fractionOf, framesAt, framesAtRate, hertz } from './index.ts';

describe('rates', () => {
  test.each([
    [44_100, 44_100, 1],
    [15_686.27, 1_568_627, 100],
    [11_025.5, 22_051, 2],
    ['16000000/1020', 800_000, 51],
    [{ of: 88_200, by: 2 }, 44_100, 1],
  ])('%j is %i / %i', (rate, of, by) => {
    expect(fractionOf(rate)).toEqual({ of, by });
    expect(hertz(rate)).toBeCloseTo(of / by, 9);
  });

  test('a timer of a 16 MHz clock makes the rates that its dividers allow', () => {
    // Common practice, no source: 16 MHz / 1 020 is 15 686.27 Hz, 33 cents below 16 000 Hz.
    expect(hertz('16000000/1020').toFixed(2)).toBe('15686.27');
    expect(1200 * Math.log2(hertz('16000000/1020') / 16_000)).toBeCloseTo(-34.28, 1);
  });

  test('frames at a new rate are the nearest whole number, there and back within one', () => {
    const rate = fc.integer({ min: 1000, max: 192_000 });
    fc.assert(
      fc.property(fc.nat(10_000_000), rate, rate, (frames, from, to) => {
        const there = framesAtRate(frames, from, to);
        expect(Math.abs(there - (frames * to) / from)).toBeLessThanOrEqual(0.5);
        expect(Math.abs(framesAtRate(there, to, from) - frames)).toBeLessThanOrEqual(Math.ceil(from / to / 2) + 1);
      }),
    );
  });
});

// Common practice, no source: a beat at 120 a minute lasts half a second.
test.each([
  [2, 4, 120, 44_100, 176_400],
  [1, 3, 90, 48_000, 96_000],
  [4, 4, 100, 44_100, 423_360],
  [1, 4, 93, 44_100, 113_806],
])('%i bars of %i beats at %i a minute, %i Hz: %i frames', (count, beats, tempo, rate, frames) => {
  expect(barFrames(count, beats, tempo, rate)).toBe(frames);
  expect(framesAt((count * beats * 60) / tempo, rate)).toBe(frames);
});
