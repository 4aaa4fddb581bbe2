import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { targets } from '../targets/index.ts';
import {
  addedPlace,
  checkPlaces,
  clearedPlace,
  clearedPlaces,
  freePlaces,
  movedPlace,
  type PlaceChange,
  placing,
  plannedFiles,
} from './index.ts';

const buttons = { places: { words: ['button'], first: 1, count: 4, labels: {} } };
const clips = ['a', 'b', 'c'].map((id) => ({ id, name: id.toUpperCase() }));
const shown = (placed: ReadonlyMap<number, string>) => [...placed].map(([number, id]) => `${number}${id}`).join(' ');

/** An assignment after a change, as a job has it. */
const after = (assigned: Readonly<Record<string, string>>, change: PlaceChange) =>
  Object.fromEntries(
    Object.entries({
      ...assigned,
      ...Object.fromEntries(Object.entries(change).map(([name, id]) => [name.replace('places/', ''), id])),
    }).flatMap(([number, id]) => (id === null ? [] : [[number, id]])),
  );

describe('what plays where', () => {
  test.each([
    [{}, '1a 2b 3c'],
    [{ 2: 'a' }, '1b 2a 3c'],
    [{ 1: 'c', 4: 'c' }, '1c 2a 3b 4c'],
    [{ 4: 'gone' }, '1a 2b 3c'],
    [{ 9: 'b' }, '1a 2c 9b'],
  ])('%j: %s', (assigned, wanted) => expect(shown(placing(clips, assigned, buttons))).toBe(wanted));

  test('every clip has a place, none has two, and what was assigned is where it was put', () => {
    const ids = fc.uniqueArray(fc.string({ minLength: 1, maxLength: 3 }), { maxLength: 12 });
    const job = ids.chain((all) =>
      fc.record({
        all: fc.constant(all),
        assigned: fc.dictionary(fc.nat(20).map(String), fc.constantFrom(...(all.length ? all : ['none']))),
      }),
    );
    fc.assert(
      fc.property(job, ({ all, assigned }) => {
        const placed = placing(
          all.map((id) => ({ id })),
          assigned,
          buttons,
        );
        expect(new Set(placed.values())).toEqual(new Set(all));
        for (const [number, id] of Object.entries(assigned)) {
          if (all.includes(id)) expect(placed.get(Number(number))).toBe(id);
        }
        expect([...placed.keys()]).toEqual([...placed.keys()].toSorted((a, b) => a - b));
      }),
    );
  });
});

describe('changes', () => {
  const placed = placing(clips, {}, buttons);
  test('only what is moved moves: it changes places with what is there', () => {
    const assigned = after({}, movedPlace(placed, {}, 1, 3));
    expect(shown(placing(clips, assigned, buttons))).toBe('1c 2b 3a');
    // Another order of the clips changes nothing of that.
    expect(shown(placing(clips.toReversed(), assigned, buttons))).toBe('1c 2b 3a');
    expect(shown(placing(clips, after({}, movedPlace(placed, {}, 2, 4)), buttons))).toBe('1a 3c 4b');
  });

  test('a clip at two places, and at one again; all of it taken back', () => {
    const assigned = after({}, addedPlace(placed, {}, 'a', 4));
    const twice = placing(clips, assigned, buttons);
    expect(shown(twice)).toBe('1a 2b 3c 4a');
    expect(shown(placing(clips, after(assigned, clearedPlace(twice, assigned, 1)), buttons))).toBe('2b 3c 4a');
    const taken = after({}, addedPlace(placed, {}, 'a', 2));
    expect(shown(placing(clips, taken, buttons))).toBe('1a 2a 3c 4b');
    expect(after(assigned, clearedPlaces(assigned))).toEqual({});
  });
});

test('free places: all of a small device, of a large one those between and the next', () => {
  expect(freePlaces(buttons, placing(clips, { 4: 'c' }, buttons))).toEqual([3]);
  const numbers = { places: { words: ['number'], first: 0, count: 10_000, labels: {} } };
  expect(freePlaces(numbers, placing(clips, { 5: 'a' }, numbers))).toEqual([2, 3, 4, 6]);
  expect(freePlaces({}, placing([], {}, {}))).toEqual([0]);
});

test('numbers that the device does not have break the sheet', () => {
  expect(checkPlaces(buttons, [1, 4])).toEqual([]);
  expect(checkPlaces({}, [1, 999])).toEqual([]);
  expect(checkPlaces(buttons, [0, 4, 5])).toMatchObject([
    { verdict: 'breaks', wanted: 'button 1 to 4', found: 'button 0, 5' },
  ]);
});

describe('files of a set', () => {
  const assigned = { 7: 'a', 2: 'a', 3: 'c' };
  const naming = { separator: '-' as const };
  const digits = { ...buttons, naming, requirements: [{ key: 'name', kind: 'name' as const, digits: 3 }] };
  test('named by number: one for each place, called by it', () => {
    const files = plannedFiles(clips, assigned, digits).map(({ clip, slots, stem }) => [clip, slots, stem]);
    expect(files).toEqual([
      ['b', [1], '001'],
      ['a', [2], '002'],
      ['c', [3], '003'],
      ['a', [7], '007'],
    ]);
  });

  test('named by clip: one for each clip, in the order of the places', () => {
    const files = plannedFiles(clips, assigned, { ...buttons, naming, requirements: [] });
    expect(files.map(({ slots, stem, index }) => [stem, slots, index])).toEqual([
      ['b', [1], 1],
      ['a', [2, 7], 0],
      ['c', [3], 2],
    ]);
  });

  // What no file system and no device may be given: parts of paths, control characters, reserved names, only dots,
  // right-to-left marks, formulas, markup, and far too much of anything.
  const hostile = fc.oneof(
    fc.constantFrom('../..', '/etc/passwd', 'C:\\x', 'con', 'NUL.wav', 'lpt1', '....', '.', '', ' ', '\u202egnp.exe'),
    fc.constantFrom(
      '=1+1',
      '@SUM(A1)',
      '<b>&amp;</b>',
      ']]>',
      '"; DROP',
      '\0',
      'a\nb\tc',
      '\ud800',
      '🔔🚠',
      'שלום',
      'مرحبا',
    ),
    fc.string({ unit: 'grapheme', maxLength: 20 }),
    fc.string({ unit: 'binary', maxLength: 20 }),
    fc.string({ minLength: 300, maxLength: 300 }),
  );
  test.each(
    targets.map((target) => [target.id, target] as const),
  )('%s: hostile names stay inside and apart', (_, target) => {
    const job = fc.tuple(
      fc.array(hostile, { minLength: 1, maxLength: 20 }),
      fc.dictionary(fc.nat(30).map(String), fc.nat(19).map(String)),
    );
    fc.assert(
      fc.property(job, ([names, places]) => {
        const stems = plannedFiles(
          names.map((name, i) => ({ id: String(i), name })),
          places,
          target,
        ).map(({ stem }) => stem);
        expect(new Set(stems.map((stem) => stem.toLowerCase())).size).toBe(stems.length);
        for (const stem of stems) {
          expect(stem).toMatch(/^[A-Za-z0-9][A-Za-z0-9_-]*$/);
          expect(stem).not.toMatch(/^(con|prn|aux|nul|com\d|lpt\d)$/i);
          expect(stem.length).toBeLessThanOrEqual(70);
        }
      }),
      { numRuns: 60 },
    );
  });
});
