import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { factsFor, sources } from '../chain/fixtures/sources.ts';
import { automaticSettings, evenLimit, settle, soundBytesOf } from '../chain/index.ts';
import { demandsOf, type Target, targetOf } from '../targets/index.ts';
import { budgetWays } from './index.ts';

describe('one limit for the clips of a set', () => {
  // By hand: at 1 000 bytes a second, 1 s and 3 s and 6 s in 7 000 bytes are 1 s, 3 s and 3 s.
  test.each([
    [[1, 3, 6], 7000, 3],
    [[1, 3, 6], 4000, 1.5],
    [[1, 3, 6], 900, 0.3],
    [[1, 3, 6], 10_000, 6],
    [[2], 500, 0.5],
  ])('%j s in %i bytes: %f s', (lengths, budget, wanted) => {
    const clips = lengths.map((seconds) => ({ seconds, bytes: seconds * 1000 }));
    expect(evenLimit(clips, budget)).toBeCloseTo(wanted, 9);
  });

  test('the budget is used up, and never exceeded', () => {
    const clip = fc.record({
      seconds: fc.double({ min: 0.1, max: 60, noNaN: true }),
      rate: fc.integer({ min: 100, max: 90_000 }),
    });
    fc.assert(
      fc.property(
        fc.array(clip, { minLength: 1, maxLength: 20 }),
        fc.integer({ min: 1, max: 1_000_000 }),
        (entries, budget) => {
          const clips = entries.map(({ seconds, rate }) => ({ seconds, bytes: seconds * rate }));
          const limit = evenLimit(clips, budget);
          const total = entries.reduce((sum, { seconds, rate }) => sum + Math.min(seconds, limit) * rate, 0);
          const all = clips.reduce((sum, { bytes }) => sum + bytes, 0);
          expect(total).toBeCloseTo(Math.min(all, budget), 3);
        },
      ),
    );
  });
});

describe('ways to make a set fit', () => {
  const board = targetOf('microcontroller-8-bit-dac');
  const clips = [sources.long, sources.quiet, sources.plain].map((pcm, i) => ({
    facts: factsFor(pcm),
    settings: automaticSettings(`clip ${i}`),
  }));
  const bytesOf = (target: Target, settings: readonly ReturnType<typeof automaticSettings>[]) =>
    clips.reduce((sum, { facts }, i) => sum + soundBytesOf(settle({ facts, settings: settings[i], target })), 0);
  const open: Target = {
    ...board,
    requirements: [
      ...board.requirements,
      { key: 'sample-rate', kind: 'sample-rate', anyOf: [16_000, 8000, 2000] },
      { key: 'set-size', kind: 'set-size', most: 200_000 },
    ],
  };

  test.each([
    ['a fixed rate', board],
    ['several rates', open],
  ])('with %s: each of them fits', (_, target) => {
    const most = demandsOf(target).setBytes!.value;
    const ways = budgetWays(clips, target);
    expect(ways.length).toBeGreaterThan(0);
    for (const { settings } of ways) expect(bytesOf(target, settings)).toBeLessThanOrEqual(most);
  });

  test('a lower rate comes before cutting', () => {
    const labels = budgetWays(clips, open).map(({ label }) => label);
    expect(labels[0]).toMatch(/^8\u202f000 Hz for all: .* bytes to spare$/);
    expect(labels.at(-1)).toMatch(/^Cut the longest to /);
  });

  test('where the lowest rate is not enough, it is offered together with a cut', () => {
    const tight: Target = {
      ...open,
      requirements: open.requirements.map((entry) => (entry.kind === 'set-size' ? { ...entry, most: 30_000 } : entry)),
    };
    const [both, cut] = budgetWays(clips, tight);
    expect(both.label).toMatch(/^2\u202f000 Hz for all, and cut the longest to /);
    expect(cut.label).toMatch(/^Cut the \d longest to /);
    for (const { settings } of [both, cut]) expect(bytesOf(tight, settings)).toBeLessThanOrEqual(30_000);
  });

  test('none where the set fits, or the sheet has no rule for it', () => {
    expect(budgetWays(clips.slice(1), board)).toEqual([]);
    expect(budgetWays(clips, targetOf('two-way-radio-prompt'))).toEqual([]);
  });
});
