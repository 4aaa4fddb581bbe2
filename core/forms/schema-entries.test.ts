import * as v from 'valibot';
import { expect, test } from 'vitest';
import { wholeWithin, within } from './index.ts';
import { insteadOf, namesAt, nearestName, schemaEntries } from './schema-entries.ts';

const known = ['desk-phone-ring-tone', 'loop-player', 'portable-player'];
test.each([
  ['desk-phone', 'desk-phone-ring-tone'],
  ['player', 'loop-player'],
  ['lop-player', 'loop-player'],
  ['Portable-Pleyer', 'portable-player'],
  ['toaster', null],
  ['', null],
])('%j means %s', (name, wanted) => expect(nearestName(name, known)).toBe(wanted));

test('what there is instead is named', () => {
  expect(insteadOf('dithr', ['bits', 'dither'])).toBe('; there are bits, dither: perhaps dither');
  expect(insteadOf('xyz', ['bits', 'dither'])).toBe('; there are bits, dither');
  expect(insteadOf('x', [])).toBe('');
});

const schema = v.strictObject({
  bits: v.optional(wholeWithin({ least: 1, most: 32 })),
  fade: v.optional(
    v.pipe(
      v.strictObject({ ms: within({ least: 0, most: 9 }), shape: v.optional(v.picklist(['a', 'b'])) }),
      v.check(() => true),
    ),
  ),
  tags: v.optional(v.union([v.picklist(['none', 'keep']), v.strictObject({ title: v.optional(v.string()) })])),
  weights: v.array(v.number()),
  on: v.boolean(),
  name: v.pipe(v.string(), v.regex(/x/, 'a name has an x')),
});

test('every entry of a schema, in words', () => {
  expect(schemaEntries(schema).map(({ path, words }) => `${path.join('.')}: ${words}`)).toEqual([
    'bits: a whole number, 1 to 32',
    'fade.ms: a number, 0 to 9',
    'fade.shape: a, b',
    'tags: none, keep',
    'tags.title: a text',
    'weights: a number; several with commas between them',
    'on: true or false',
    'name: a name has an x',
  ]);
  expect([namesAt(schema, ['fade']), namesAt(schema, ['tags']), namesAt(schema, ['nothing'])]).toEqual([
    ['ms', 'shape'],
    ['title'],
    [],
  ]);
});
