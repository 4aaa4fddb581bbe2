import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { requirementText } from '../targets/index.ts';
import { centsBetween, hertz, partsPerMillion, timerRates } from './index.ts';

const board = { clock: 16_000_000, prescalers: [1, 8, 64, 256, 1024], counterBits: 8 };

describe('rates of a timer', () => {
  // By hand: 16 MHz / (8 x 125) = 16 000 Hz; with 8 bits and no prescaler 62 500 Hz is the lowest.
  test.each([
    [board, 16_000, { prescaler: 8, top: 124, exact: '16000000/1000', hz: 16_000 }],
    [board, 8000, { prescaler: 8, top: 249, exact: '16000000/2000', hz: 8000 }],
    [board, 62_500, { prescaler: 1, top: 255, exact: '16000000/256', hz: 62_500 }],
    // 16 MHz / (8 x 181) = 11 049.7 Hz is nearer to 11 025 than / (8 x 182) = 10 989 Hz.
    [board, 11_025, { prescaler: 8, top: 180, exact: '16000000/1448', hz: 16_000_000 / 1448 }],
    // With 16 bits the clock itself is divided: 16 MHz / 1 451 = 11 026.9 Hz.
    [{ ...board, counterBits: 16 }, 11_025, { prescaler: 1, top: 1450, exact: '16000000/1451', hz: 16_000_000 / 1451 }],
  ])('%j near %i Hz: %j', (timer, wanted, nearest) => {
    expect(timerRates(timer, wanted)[0]).toEqual(nearest);
  });

  test('none where the counter is too narrow', () => {
    expect(timerRates({ clock: 16_000_000, prescalers: [1], counterBits: 4 }, 8000)).toEqual([]);
    const wanted = requirementText({
      key: 'timer-rate',
      kind: 'timer-rate',
      clock: 16_000_000,
      prescalers: [1],
      counterBits: 4,
      wanted: 8000,
    });
    expect(wanted).toBe('timer rate: 8\u202f000 Hz, which this timer cannot come near');
  });

  test('each is one that the timer makes, they come nearest first, and none that it makes is nearer', () => {
    const timer = fc.record({
      clock: fc.integer({ min: 1_000_000, max: 100_000_000 }),
      prescalers: fc.uniqueArray(fc.constantFrom(1, 2, 4, 8, 16, 64, 256), { minLength: 1 }),
      counterBits: fc.constantFrom(8, 10, 16),
    });
    fc.assert(
      fc.property(timer, fc.integer({ min: 4000, max: 48_000 }), (entry, wanted) => {
        const rates = timerRates(entry, wanted, 4);
        for (const { prescaler, top, exact, hz } of rates) {
          expect(entry.prescalers).toContain(prescaler);
          expect(top).toBeLessThan(2 ** entry.counterBits);
          expect(hz).toBeCloseTo(entry.clock / (prescaler * (top + 1)), 6);
          expect(hertz(exact)).toBeCloseTo(hz, 6);
        }
        const off = rates.map(({ hz }) => Math.abs(centsBetween(hz, wanted)));
        expect(off).toEqual([...off].sort((a, b) => a - b));
        // All that there are, read through one by one.
        let least = Number.POSITIVE_INFINITY;
        for (const prescaler of entry.prescalers) {
          for (let divisor = 2; divisor <= 2 ** entry.counterBits; divisor++) {
            least = Math.min(least, Math.abs(centsBetween(entry.clock / (prescaler * divisor), wanted)));
          }
        }
        // Where all of them are far too fast or too slow, nothing is offered.
        if (rates.length) expect(off[0]).toBeCloseTo(least, 6);
      }),
      { numRuns: 60 },
    );
  });

  // Common practice, no source: an octave is 1 200 cents, a semitone 100, that is a factor of 2^(1/12).
  test.each([
    [2, 1, 1200, 1_000_000],
    [2 ** (1 / 12), 1, 100, 59_463.09],
    [16_025.641, 16_000, 2.772, 1602.56],
    [8000, 8000, 0, 0],
  ])('%f Hz beside %f Hz: %f cents, %f ppm', (a, b, cents, ppm) => {
    expect(centsBetween(a, b)).toBeCloseTo(cents, 2);
    expect(partsPerMillion(a, b)).toBeCloseTo(ppm, 1);
  });
});
