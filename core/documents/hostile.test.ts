import { readFileSync } from 'node:fs';
import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { targetOf } from '../targets/index.ts';
import { InputError } from '../words/index.ts';
import { BUDGETS, excessOf, parseDocument, readChange, readDocument } from './index.ts';

/** Documents from anywhere: what is wrong is named, what is too much is refused before it is parsed, and nothing else is thrown. */

const frozen = JSON.parse(readFileSync(new URL('./fixtures/format-1/delivery.json', import.meta.url), 'utf8'));
const read = JSON.parse(JSON.stringify(readDocument('delivery', frozen, 'The delivery')));
const facts = {
  ...{ container: 'c-header', encoding: 'pcm-u8', sampleRate: 8000, channels: 1, frames: 9, bytes: 90 },
  ...{ tags: [], warnings: [], levels: { peak: [0], rms: [0] } },
};
const part = { clip: read.job.clips[0].id, offset: 0, length: 9, facts, report: {}, findings: [] };
const delivery = { ...read, artifacts: [{ ...read.artifacts[0], parts: [part] }] };
const sheet = targetOf('desk-phone-ring-tone');
const job = JSON.parse(JSON.stringify(delivery.job));

/** The document with something else at a place. */
const withAt = <T>(value: T, path: readonly (string | number)[], entry: unknown): T => {
  const copy = structuredClone(value);
  let at = copy as Record<string | number, unknown>;
  for (const key of path.slice(0, -1)) at = at[key] as Record<string | number, unknown>;
  at[path.at(-1) ?? ''] = entry;
  return copy;
};

describe('the record of a delivery', () => {
  const [file] = delivery.artifacts;
  test.each<[string, readonly (string | number)[], unknown, RegExp]>([
    ['facts that say nothing', ['artifacts', 0, 'parts', 0, 'facts'], {}, /artifacts\.0\.parts\.0\.facts/],
    ['facts without levels', ['artifacts', 0, 'parts', 0, 'facts', 'levels'], undefined, /facts\.levels/],
    ['two files of one path', ['artifacts'], [file, file], /two of its files have the same path/],
    [
      'a file in place of a folder',
      ['artifacts'],
      [
        { ...file, path: 'a' },
        { ...file, path: 'a/b' },
      ],
      /two of its files have the same path/,
    ],
  ])('with %s is refused', (_, path, entry, words) => {
    expect(() => readDocument('delivery', withAt(delivery, path, entry), 'The delivery')).toThrow(words);
  });
});

describe('a sheet asks for nothing that cannot be made', () => {
  const asks = (requirement: object) => ({
    ...sheet,
    requirements: [
      ...sheet.requirements.filter(({ kind }) => kind !== (requirement as { kind: string }).kind),
      { key: 'x', ...requirement },
    ],
  });
  test.each([
    ['channels', { kind: 'channels', anyOf: [1_000_000_000] }, /it must be 64 or less/],
    ['a rate', { kind: 'sample-rate', anyOf: [1e9] }, /sample|it must be|anyOf/],
    ['a rate as a fraction', { kind: 'sample-rate', anyOf: ['9999999999/1'] }, /from 100 to 1000000 Hz/],
    ['a length', { kind: 'frames', least: 1e15 }, /it must be 4000000000 or less/],
    ['a size', { kind: 'file-size', most: 1e15 }, /it must be 1000000000000 or less/],
  ])('%s', (_, requirement, words) => {
    expect(() => readDocument('sheet', asks(requirement), 'The sheet')).toThrow(words);
  });

  test('and has so many parts at most', () => {
    const variants = Array.from({ length: 61 }, (_, i) => ({ id: `v${i}`, name: 'V', replace: {}, without: [] }));
    expect(() => readDocument('sheet', { ...sheet, variants }, 'The sheet')).toThrow(/60 entries or fewer/);
  });
});

test.each([
  ['ranks without room beside them', { rank: 'z' }],
  ['ranks that are none', { rank: 'A00000000000000000000000000' }],
])('%s are refused', (_, more) => {
  const [clip] = job.clips;
  expect(() => readChange({ [`clips/${clip.id}`]: { ...clip, ...more } })).toThrow(/rank: it is not a rank/);
});

test.each([
  'ownLists/__proto__',
  'places/__proto__',
  'values/__proto__',
  'wishes/__proto__',
  'ownLists/constructor',
])('%s is no place of a job', (place) => {
  const change = JSON.parse(`{ ${JSON.stringify(place)}: "${'a'.repeat(64)}" }`);
  expect(() => readChange(change)).toThrow(InputError);
});

test('what is too much is refused before it is parsed, and a mark of the byte order is no fault', () => {
  const many = `{"clips":[${'{},'.repeat(400_000)}{}]}`;
  expect(() => parseDocument('job', many, 'job.json')).toThrow(/line 1: it has more than 300.000 entries/);
  expect(excessOf('"\\"[[[[{,,,"', { length: 100, entries: 0 })).toBeNull();
  expect(excessOf('x'.repeat(101), { length: 100, entries: 1 })).toMatchObject({ offset: 100 });
  expect(BUDGETS.sheet.entries).toBeLessThan(BUDGETS.request.entries);
  expect(parseDocument('sheet', `\ufeff${JSON.stringify(sheet)}`, 'sheet.json')).toEqual(sheet);
});

/** A value of JSON in place of any entry of a document. */
const anything = fc.oneof(
  fc.jsonValue({ maxDepth: 4 }),
  fc.constantFrom<unknown>(
    '__proto__',
    -1,
    0,
    1e308,
    -0.5,
    '',
    ' ',
    '\u0000',
    '\ud800',
    'a'.repeat(10_000),
    [],
    {},
    null,
    [[[[]]]],
  ),
);
/** Paths of all entries. */
function pathsOf(value: unknown, path: readonly (string | number)[] = []): (readonly (string | number)[])[] {
  if (typeof value !== 'object' || value === null) return [path];
  return [
    ...(path.length ? [path] : []),
    ...Object.entries(value).flatMap(([key, entry]) =>
      pathsOf(entry, [...path, Array.isArray(value) ? Number(key) : key]),
    ),
  ];
}
const RUNS = Number(process.env.TAMBUR_RUNS ?? 300);

test.each([
  ['sheet', sheet],
  ['job', job],
  ['delivery', delivery],
] as const)('a %s with anything anywhere is read, or refused in one sentence', (kind, document) => {
  const paths = pathsOf(document);
  fc.assert(
    fc.property(fc.constantFrom(...paths), anything, (path, entry) => {
      const text = JSON.stringify(withAt(document as unknown, path, entry));
      try {
        parseDocument(kind, text, 'file.json');
      } catch (error) {
        if (!(error instanceof InputError)) throw error;
        expect(error.message).toMatch(/^file\.json[\s\S]*[.]$/);
        expect(error.message.length).toBeLessThan(900);
      }
    }),
    { numRuns: RUNS, seed: 24 },
  );
});

test('a change of anything is read, or refused in one sentence', () => {
  const [clip] = job.clips;
  const whole = {
    title: 'x',
    variant: null,
    'places/3': clip.id,
    'wishes/level': { peakDb: -3 },
    [`clips/${clip.id}`]: { ...clip, rank: 'a0' },
  };
  const key = fc.oneof(
    fc.constantFrom(...Object.keys(whole)),
    fc.string().map((text) => `places/${text}`),
    fc.string(),
  );
  fc.assert(
    fc.property(key, anything, (place, entry) => {
      try {
        readChange({ ...whole, [place]: entry });
      } catch (error) {
        if (!(error instanceof InputError)) throw error;
        expect(error.message).toMatch(/^The change, [\s\S]*[.]$/);
      }
    }),
    { numRuns: RUNS, seed: 24 },
  );
});
