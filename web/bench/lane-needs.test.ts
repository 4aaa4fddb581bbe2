import { PEAK_STEPS } from '@tambur/core';
import fc from 'fast-check';
import { expect, test } from 'vitest';
import { CLOSE, laneNeeds, MOST_BINS, MOST_FRAMES } from './lane-needs.ts';

test.each([
  ['a whole minute', 2_646_000, [0, 2_646_000], 680, null],
  ['a second of it', 2_646_000, [44_100, 88_200], 680, { from: 44_100, count: 44_100 }],
  ['between frames', 1000, [10.4, 20.6], 680, { from: 10, count: 11 }],
  ['beyond the end', 1000, [900, 1200], 680, { from: 900, count: 100 }],
  ['a lane that is not laid out yet', 1000, [0, 1000], 0, null],
  ['nothing', 1000, [1000, 1100], 680, null],
] as const)('%s', (_, frames, [from, to], width, samples) => {
  expect(laneNeeds(frames, { from, to }, width).samples).toEqual(samples);
});

test('no more is fetched than is meant to be, of any sound at any zoom', () => {
  const frames = fc.integer({ min: 1, max: 24 * 3600 * 48_000 });
  fc.assert(
    fc.property(
      frames,
      fc.double({ min: 0, max: 1, noNaN: true }),
      fc.integer({ min: 1, max: 8000 }),
      (all, at, width) => {
        const from = at * all;
        const to = Math.min(all, from + 1 + (all - from) * at);
        const { step, samples } = laneNeeds(all, { from, to }, width);
        expect(PEAK_STEPS).toContain(step);
        expect(all / step <= MOST_BINS || step === Math.max(...PEAK_STEPS)).toBe(true);
        // The finest that will do.
        for (const finer of PEAK_STEPS) if (finer < step) expect(all / finer).toBeGreaterThan(MOST_BINS);
        if (samples) {
          expect(samples.from + samples.count).toBeLessThanOrEqual(all);
          expect(samples.count).toBeLessThanOrEqual(Math.min(MOST_FRAMES, CLOSE * width));
        }
      },
    ),
  );
});
