import { type Target, targetOf } from '@tambur/core';
import { describe, expect, test } from 'vitest';
import { entriesOf, entryOf, freeEntries, withQuestion, withUsualInPlace } from './questions.ts';
import { cleaned, textOf } from './sheet-draft.ts';

const sheet: Target = {
  ...targetOf('portable-player'),
  player: {},
  requirements: [
    { key: 'length', kind: 'duration', most: 6 },
    { key: 'rate', kind: 'sample-rate', anyOf: [8000] },
  ],
  variants: [],
  blanks: [],
};
const entries = entriesOf(sheet);
const asked = (most: number): Target => ({
  ...sheet,
  requirements: [{ key: 'length', kind: 'duration', most }],
  blanks: withQuestion([], entries[0]),
});

describe('questions of a sheet', () => {
  test('are possible of what is one number or one text', () => {
    expect(entries.map(({ at, value }) => [at.key, at.pointer, value])).toEqual([['length', '/most', 6]]);
  });

  test('get an id of their own, and are then no longer free', () => {
    const one = withQuestion([], entries[0]);
    expect(one).toMatchObject([{ id: 'length', level: 'job', usual: 6, at: [{ key: 'length', pointer: '/most' }] }]);
    expect(withQuestion(one, entries[0]).map(({ id }) => id)).toEqual(['length', 'length-2']);
    expect(entryOf(one[0], entries)).toBe(entries[0]);
    expect(freeEntries(entries, [])).toEqual(entries);
    expect(freeEntries(entries, one)).toEqual([]);
  });

  test('have as their usual answer what stands in their place', () => {
    expect(withUsualInPlace(asked(9))).toMatchObject([{ id: 'length', usual: 9 }]);
  });

  test('are possible of what the device does, and go with their place', () => {
    const draft: Target = { ...asked(9), requirements: [], player: { 'plays-at': 8000, keeps: 'list' } };
    const [fixed, ...others] = entriesOf(draft);
    expect(fixed).toMatchObject({ at: { key: 'plays-at', pointer: '' }, value: 8000 });
    // One of several words is no answer that a person could give to a question.
    expect(others).toEqual([]);
    const blanks = withQuestion(draft.blanks, fixed);
    expect(withUsualInPlace({ ...draft, blanks, player: { 'plays-at': 9000 } })).toMatchObject([
      { id: 'plays-at', usual: 9000 },
    ]);
  });
});

test('a draft is the same sheet whatever the order of its fields, and another where one has changed', () => {
  const turned = Object.fromEntries(Object.entries(sheet).reverse()) as unknown as Target;
  expect(textOf(cleaned(turned))).toBe(textOf(cleaned(sheet)));
  expect(textOf(cleaned({ ...sheet, name: 'Another' }))).not.toBe(textOf(cleaned(sheet)));
  expect(cleaned({ ...sheet, places: undefined })).not.toHaveProperty('places');
  expect(cleaned({ ...sheet, variants: [{ id: '', name: 'Older one', replace: {}, without: [] }] }).variants).toEqual([
    { id: 'older-one', name: 'Older one', replace: {}, without: [] },
  ]);
});
