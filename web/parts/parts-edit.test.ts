import { expect, test } from 'vitest';
import { START_EDIT, undone, withParts, withRules } from './parts-edit.ts';

const one = [{ start: 0, end: 9 }];
const two = [
  { start: 0, end: 4 },
  { start: 4, end: 9 },
];

test('changes by hand are taken back one by one, down to what the rules say', () => {
  const edit = withParts(withParts(START_EDIT, one), two);
  expect(edit.byHand).toBe(two);
  expect(undone(edit).byHand).toBe(one);
  expect(undone(undone(edit))).toEqual(START_EDIT);
  expect(undone(START_EDIT)).toEqual(START_EDIT);
});

test('other rules find the parts again; one rule changes no other', () => {
  const edit = withRules(withParts(START_EDIT, one), { leastPart: 0.5 });
  expect(edit).toEqual({ ...START_EDIT, rules: { ...START_EDIT.rules, leastPart: 0.5 } });
  expect(withRules(edit, { thresholdDb: -30 })).toEqual({ ...edit, thresholdDb: -30 });
  expect(withRules(withRules(edit, { thresholdDb: -30 }), { margin: 0.2 }).thresholdDb).toBe(-30);
});
