import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { barTicksOf, moved, pinched, ticksOf, type View, viewOfRange, wheelFactor, zoomed } from './view.ts';

const frames = 100_000;
const view = fc
  .tuple(fc.nat(frames - 20), fc.integer({ min: 20, max: frames }))
  .map(([from, length]): View => ({ from, to: Math.min(frames, from + length) }));

const isInside = ({ from, to }: View) => from >= 0 && to <= frames + 1e-6 && to - from >= 8 - 1e-6;

describe('a view', () => {
  test('keeps the frame under the pointer where it is, as long as it does not meet an end', () => {
    fc.assert(
      fc.property(
        view,
        fc.double({ min: 0, max: 1, noNaN: true }),
        fc.double({ min: 0.3, max: 0.95, noNaN: true }),
        (v, place, factor) => {
          const around = v.from + place * (v.to - v.from);
          const near = zoomed(v, factor, around, frames);
          expect(isInside(near)).toBe(true);
          if (near.to - near.from <= 8.001) return;
          expect((around - near.from) / (near.to - near.from)).toBeCloseTo(place, 6);
          expect(near.to - near.from).toBeCloseTo((v.to - v.from) * factor, 4);
        },
      ),
    );
  });

  test('stays within the sound, however it is moved, zoomed and pinched', () => {
    fc.assert(
      fc.property(
        view,
        fc.integer({ min: -200_000, max: 200_000 }),
        fc.double({ min: 0.001, max: 1000, noNaN: true }),
        fc.tuple(fc.nat(frames), fc.nat(frames)),
        fc.tuple(fc.double({ min: 0, max: 1, noNaN: true }), fc.double({ min: 0, max: 1, noNaN: true })),
        (v, by, factor, held, places) => {
          expect(isInside(moved(v, by, frames))).toBe(true);
          expect(isInside(zoomed(v, factor, by, frames))).toBe(true);
          expect(isInside(pinched(held, places, frames))).toBe(true);
        },
      ),
    );
  });

  test('shows a range with a tenth of it on either side, and no less than eight frames', () => {
    expect(viewOfRange(1000, 2000, frames)).toEqual({ from: 900, to: 2100 });
    expect(viewOfRange(0, frames, frames)).toEqual({ from: 0, to: frames });
    expect(viewOfRange(500, 501, frames).to - viewOfRange(500, 501, frames).from).toBe(8);
    expect(viewOfRange(0, 3, 3)).toEqual({ from: 0, to: 3 });
  });

  test('a wheel zooms as far as it is turned, and back', () => {
    const turned = (deltaY: number, more = {}) => wheelFactor({ deltaY, deltaMode: 0, ctrlKey: false, ...more });
    expect(turned(100)).toBe(1.25);
    expect(turned(0)).toBe(1);
    expect(turned(7) * turned(-7)).toBeCloseTo(1, 12);
    // A pad's many small steps add up to what one notch does.
    expect(turned(1) ** 100).toBeCloseTo(1.25, 9);
    expect(turned(20, { ctrlKey: true })).toBe(1.25);
    expect(turned(3, { deltaMode: 1 })).toBeCloseTo(1.25 ** 0.99, 12);
    expect(turned(1e9)).toBeCloseTo(1.25 ** 4, 12);
  });

  test('two fingers hold their frames', () => {
    const { from, to } = pinched([40_000, 60_000], [0.25, 0.75], frames);
    expect([from, to]).toEqual([30_000, 70_000]);
  });
});

describe('the ruler', () => {
  test.each<[string, View, number, number, string[]]>([
    [
      'a short sound',
      { from: 0, to: 165_000 },
      44_100,
      680,
      ['0.0 s', '0.5 s', '1.0 s', '1.5 s', '2.0 s', '2.5 s', '3.0 s', '3.5 s'],
    ],
    ['half a minute', { from: 0, to: 240_000 }, 8_000, 680, ['0 s', '5 s', '10 s', '15 s', '20 s', '25 s', '30 s']],
    ['an hour', { from: 0, to: 3600 * 100 }, 100, 680, ['0 s', '10:00', '20:00', '30:00', '40:00', '50:00', '1:00:00']],
    [
      'some thousandths',
      { from: 4410, to: 4851 },
      44_100,
      680,
      ['0.100 s', '0.102 s', '0.104 s', '0.106 s', '0.108 s', '0.110 s'],
    ],
    [
      'single frames',
      { from: 1000, to: 1016 },
      44_100,
      680,
      [
        '1\u202f000',
        '1\u202f002',
        '1\u202f004',
        '1\u202f006',
        '1\u202f008',
        '1\u202f010',
        '1\u202f012',
        '1\u202f014',
        '1\u202f016',
      ],
    ],
  ])('%s', (_, shown, sampleRate, width, words) => {
    expect(ticksOf(shown, sampleRate, width).flatMap((tick) => tick.words ?? [])).toEqual(words);
  });

  test('marks with words never crowd, lie in the view, and are some at least where there is room', () => {
    fc.assert(
      fc.property(
        view,
        fc.integer({ min: 4000, max: 192_000 }),
        fc.integer({ min: 300, max: 2000 }),
        (v, sampleRate, width) => {
          const ticks = ticksOf(v, sampleRate, width);
          const perPixel = (v.to - v.from) / width;
          const named = ticks.filter(({ words }) => words !== null);
          for (const { frame } of ticks) {
            expect(frame).toBeGreaterThanOrEqual(v.from - 1e-6);
            expect(frame).toBeLessThanOrEqual(v.to + 1e-6);
          }
          named.slice(1).forEach(({ frame }, i) => {
            expect((frame - (named[i]?.frame ?? 0)) / perPixel).toBeGreaterThan(70);
          });
          expect(ticks.length).toBeGreaterThan(0);
          expect(ticks.length).toBeLessThan(width);
        },
      ),
    );
  });
});

describe('bars on a ruler', () => {
  // A bar of four beats at 120 a minute lasts two seconds.
  const bars = { from: 0, bar: 88_200, beats: 4 };
  const words = (frames: number, width: number) =>
    barTicksOf({ from: 0, to: frames }, bars, width)?.flatMap((tick) =>
      tick.words ? [`${tick.words} ${tick.frame}`] : [],
    );

  test('are counted from one, with their beats between them', () => {
    expect(words(2 * 88_200, 680)).toEqual(['bar 1 0', 'bar 2 88200', 'bar 3 176400']);
    expect(barTicksOf({ from: 0, to: 2 * 88_200 }, bars, 680)).toHaveLength(9);
  });

  test('are left out where there is no room for all, and give way to times where it is nearer than a beat', () => {
    expect(words(32 * 88_200, 680)).toEqual([0, 4, 8, 12, 16, 20, 24, 28, 32].map((n) => `bar ${n + 1} ${n * 88_200}`));
    expect(barTicksOf({ from: 0, to: 20_000 }, bars, 680)).toBeNull();
    expect(barTicksOf({ from: -88_200, to: 88_200 }, { ...bars, from: 44_100 }, 680)?.[0]).toEqual({
      frame: 44_100,
      words: 'bar 1',
    });
  });
});
