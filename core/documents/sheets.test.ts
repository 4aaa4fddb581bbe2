import { readFileSync } from 'node:fs';
import Ajv from 'ajv';
import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { SCHEMAS } from '../../scripts/schemas.ts';
import {
  askedBy,
  askedContainer,
  demandsOf,
  disagreements,
  fieldOf,
  filledIn,
  followingFrom,
  type Target,
  targets,
  withUsual,
  withVariant,
} from '../targets/index.ts';
import { InputError } from '../words/index.ts';
import { readDocument, readSheet, sheetText } from './index.ts';

/** A sheet of the time when it wrote out all that it asked. */
const frozen = (id: string) =>
  readSheet(readFileSync(new URL(`./fixtures/format-2/sheets/${id}.json`, import.meta.url), 'utf8'), id);
const phone = frozen('desk-phone-ring-tone');
const text = sheetText(phone);

describe('the file of a sheet', () => {
  test.each(targets.map((target) => [target.id, target] as const))('%s comes back as it was', (_, target) => {
    expect(readSheet(sheetText(target), 'sheet.json')).toEqual(target);
  });

  const variant = (entries: string) =>
    text.replace(
      '"variants": [',
      `"variants": [{ "id": "o", "name": "O", "replace": {}, "without": [], ${entries} }, `,
    );
  const evidence = (keys: string) =>
    text.replace(
      '"evidence": []',
      `"evidence": [{ "id": "e", "keys": [${keys}], "withdrawn": false, "from": { "sha256": "${'0'.repeat(64)}", "played": true } }]`,
    );
  const blank = (at: string, usual = '9') =>
    text.replace(
      '"blanks": []',
      `"blanks": [{ "id": "size", "question": "How large?", "level": "job", "usual": ${usual}, "at": [${at}] }]`,
    );

  test.each([
    ['a wrong type', text.replace('"headerless"', '3'), 'sheet.json, line 12: requirements.0.anyOf.0: '],
    ['an unknown kind', text.replace('"kind": "encoding"', '"kind": "codec"'), 'line 17: requirements.1.kind: '],
    ['a missing entry', text.replace('"about"', '"abuot"'), 'sheet.json, line 1: about: '],
    ['an entry too many', text.replace('"raw"', '"raw"], "any": ["x"'), 'requirements.8.any: '],
    ['half a file', text.slice(0, 200), 'sheet.json, line 6: this is not JSON: unexpected end of string'],
    ['a comma too many', text.replace('tone",', 'tone",,'), 'line 3: this is not JSON'],
    ['nothing', '', 'sheet.json, line 1: this is not JSON'],
    ['no object', '[1]', 'sheet.json, line 1: the sheet: it is not an object of JSON'],
    [
      'a container that there is not',
      text.replace('"headerless"', '"tape"'),
      'line 12: requirements.0.anyOf.0: there is no such container; there are wav,',
    ],
    [
      'an encoding that there is not',
      text.replace('"mu-law"', '"nu-law"'),
      'line 19: requirements.1.anyOf.0: there is no such encoding; there are pcm-u8,',
    ],
    [
      'a container that cannot carry the encoding',
      text.replace('"headerless"', '"mp3"'),
      'line 1: the sheet: no file can meet Desk phone ring tone: MP3 cannot carry mu-law',
    ],
    [
      'an edition whose encoding cannot carry the rate',
      variant(
        '"replace": { "requirements": [{ "key": "container", "kind": "container", "anyOf": ["ogg"] }, { "key": "encoding", "kind": "encoding", "anyOf": ["opus"] }] }',
      ),
      'no file can meet Desk phone ring tone, O: Opus cannot carry 8\u202f000 Hz',
    ],
    [
      'an edition whose encoding cannot carry so many channels',
      variant(
        '"replace": { "requirements": [{ "key": "container", "kind": "container", "anyOf": ["mp3"] }, { "key": "encoding", "kind": "encoding", "anyOf": ["mp3"] }, { "key": "channels", "kind": "channels", "anyOf": [3, 4] }] }',
      ),
      'no file can meet Desk phone ring tone, O: MP3 cannot carry 3 channels or 4 channels',
    ],
    [
      'a variant that takes away what there is not',
      variant('"without": ["codec"]'),
      /line \d+: variants\.0\.without\.0: the sheet has no part with the key "codec"/,
    ],
    [
      'a variant that has a key twice',
      variant(
        '"replace": { "requirements": [{ "key": "x", "kind": "file-size", "most": 9 }, { "key": "x", "kind": "file-size", "most": 8 }] }',
      ),
      /variants\.0\.replace\.requirements\.1\.key: two parts have the key "x"/,
    ],
    ['two variants of one id', variant('"id": "older-sets"'), /variants\.1\.id: two variants have the same id/],
    [
      'two parts of one key',
      text.replace('"key": "encoding"', '"key": "container"'),
      'line 16: requirements.1.key: two parts have the key "container"',
    ],
    [
      'a key that is the name of a trait',
      text.replace('"key": "tags"', '"key": "block"'),
      'is the name of another part',
    ],
    [
      'a face that there is not',
      text.replace('"id": "list"', '"id": "dial"'),
      'face.id: there is no such face; there are',
    ],
    [
      'a face with more than can be drawn',
      text.replace(/"id": "list",\s+"options": {[^}]*}/, '"id": "pads", "options": { "pads": 1000000000 }'),
      /line \d+: face\.options\.pads: it must be 64 or less/,
    ],
    ['a face’s number that is none', text.replace('"rings": 20', '"rings": "long"'), /face\.options\.rings: /],
    ['evidence for what there is not', evidence('"bars"'), /line \d+: evidence\.0\.keys\.0: the sheet has no part/],
    [
      'a blank for what there is not',
      blank('{ "key": "bars", "pointer": "/tempo" }'),
      /blanks\.0\.at\.0\.key: the sheet has/,
    ],
    [
      'a blank that points nowhere',
      blank('{ "key": "peak-advised", "pointer": "/gaol" }'),
      /blanks\.0\.at\.0\.pointer: "peak/,
    ],
    [
      'a blank whose usual value does not fit',
      blank('{ "key": "peak-advised", "pointer": "/goal" }', '"loud"'),
      'Desk phone ring tone cannot be filled in so: peak, goal',
    ],
    [
      'a rate and a range',
      text.replace('"anyOf": [\n        8000\n      ]', '"anyOf": [8000], "most": 9000'),
      'requirements.2: a sample rate is either',
    ],
    [
      'another format',
      text.replace('"format": 2', '"format": 99'),
      'sheet.json is of format 99, and this Tambur reads up to format 2; use a newer Tambur.',
    ],
    ['no format', text.replace('"format": 2', '"format": "two"'), 'line 2: format: this Tambur reads format 2'],
    [
      'a requirement that asks for nothing',
      text.replace('"requirements": [', '"requirements": [{ "key": "x", "kind": "name" }, '),
      'requirements.0: it asks for nothing; fill in one of its entries, or leave it out',
    ],
    ['much nesting', `${'{"a":'.repeat(200)}1${'}'.repeat(200)}`, 'sheet.json, line 1: it is nested more than 60 deep'],
    ['endless nesting', '['.repeat(100_000), 'sheet.json, line 1: it is nested more than 60 deep'],
    ['numbers without end', text.replace('"goal": -1', '"goal": 1e999'), /requirements\.6\.goal: it is not a number/],
  ])('%s is refused with its line', (_, broken, message) => {
    expect(broken).not.toBe(text);
    expect(() => readSheet(broken, 'sheet.json')).toThrow(message);
  });

  test('whatever JSON it holds, it is a sheet or one sentence', () => {
    const damaged = fc
      .tuple(
        fc.constantFrom(...targets),
        fc.array(fc.tuple(fc.nat(), fc.jsonValue({ maxDepth: 3 })), { minLength: 1, maxLength: 3 }),
      )
      .map(([target, changes]) => {
        const sheet = JSON.parse(sheetText(target));
        for (const [at, value] of changes) replaceSomewhere(sheet, at, value);
        return sheet;
      });
    fc.assert(
      fc.property(fc.oneof(fc.jsonValue(), damaged), (value) => {
        for (const read of [
          () => readSheet(JSON.stringify(value), 'x.json'),
          () => readDocument('sheet', value, 'The sheet'),
        ]) {
          try {
            expect(read().format).toBe(2);
          } catch (error) {
            expect(error).toBeInstanceOf(InputError);
            expect((error as Error).message).toMatch(/^[^\n]+\.$/);
          }
        }
      }),
      { numRuns: 400 },
    );
  });
});

/** Puts a value in the place of some entry of a document. */
function replaceSomewhere(document: unknown, at: number, value: unknown): void {
  const places: [Record<string, unknown>, string][] = [];
  const walk = (entry: unknown) => {
    if (typeof entry !== 'object' || entry === null) return;
    for (const key of Object.keys(entry)) {
      places.push([entry as Record<string, unknown>, key]);
      walk((entry as Record<string, unknown>)[key]);
    }
  };
  walk(document);
  const [holder, key] = places[at % places.length];
  holder[key] = value;
}

describe.each(Object.entries(SCHEMAS))('the published JSON Schema of a %s', (_, { file, text: schema }) => {
  test('is the one that is shipped: npm run schema', () => {
    expect(readFileSync(file, 'utf8')).toBe(schema());
  });
});

describe('the published JSON Schema of a sheet', () => {
  const validate = new Ajv({ strict: false }).compile(JSON.parse(SCHEMAS.sheet.text()));

  test.each(targets.map((target) => [target.id, target] as const))('%s: another validator accepts it', (_, target) => {
    validate(JSON.parse(sheetText(target)));
    expect(validate.errors ?? []).toEqual([]);
  });

  test.each([
    ['a wrong type', { ...phone, requirements: [{ key: 'e', kind: 'encoding', anyOf: 'mu-law' }] }],
    ['a bad id', { ...phone, id: 'Desk Phone' }],
    ['an entry too many', { ...phone, brand: 'x' }],
    ['an older format', { ...phone, format: 1 }],
  ])('%s: it refuses it', (_, sheet) => {
    expect(validate(sheet)).toBe(false);
  });
});

describe('variants', () => {
  test.each([
    [
      'show-controller-track',
      'older-firmware',
      { key: 'bit-rate', kind: 'bit-rate', anyOf: [128_000], constant: true },
    ],
    ['numbered-sound-module', '4-bit', { key: 'encoding', kind: 'encoding', anyOf: ['ima-adpcm'] }],
  ])('%s, %s: one requirement takes the place of another, the rest stays', (id, variant, wanted) => {
    const sheet = targets.find((target) => target.id === id)!;
    const edition = withVariant(sheet, variant);
    expect(askedBy(edition).filter(({ key }) => key === wanted.key)).toEqual([wanted]);
    expect(askedBy(edition).map(({ key }) => key)).toEqual(askedBy(sheet).map(({ key }) => key));
  });

  test('parts are replaced by key, left out by key, and what is new comes last', () => {
    const sheet: Target = {
      ...phone,
      places: { words: ['button'], first: 1, labels: {} },
      variants: [
        {
          id: 'b',
          name: 'b',
          replace: {
            requirements: [
              { key: 'frames', kind: 'frames', multipleOf: 80 },
              { key: 'size', kind: 'file-size', most: 5 },
            ],
            lists: [{ ...phone.lists[0], path: 'tones.txt' }],
            player: { block: { frames: 80, fill: 'silence' } },
            naming: { separator: '_' },
          },
          without: ['tags', 'places', 'plays-at'],
        },
      ],
    };
    const edition = withVariant(sheet, 'b');
    const keys = phone.requirements.map(({ key }) => key).filter((key) => key !== 'tags');
    expect(edition.requirements.map(({ key }) => key)).toEqual([...keys, 'size']);
    expect(edition.requirements[4]).toEqual({ key: 'frames', kind: 'frames', multipleOf: 80 });
    expect(edition.lists.map(({ path }) => path)).toEqual(['tones.txt']);
    const { 'plays-at': _, ...kept } = phone.player;
    expect(edition.player).toEqual({ ...kept, block: { frames: 80, fill: 'silence' } });
    expect(edition).toMatchObject({ name: 'Desk phone ring tone, b', naming: { separator: '_' } });
    expect(edition).not.toHaveProperty('places');
    expect(withVariant(sheet, null)).toBe(sheet);
  });
});

describe('blanks', () => {
  const loop = { ...frozen('loop-player'), blanks: [] };
  const sheet: Target = {
    ...loop,
    blanks: [
      {
        id: 'tempo',
        question: 'How many beats a minute?',
        level: 'job',
        usual: 100,
        at: [
          { key: 'bars', pointer: '/tempo' },
          { key: 'speaker', pointer: '/low' },
        ],
      },
    ],
  };

  test('are filled where they point, with what is given or what is usual', () => {
    expect(readSheet(sheetText(sheet), 'x')).toEqual(sheet);
    for (const [values, tempo] of [
      [{}, 100],
      [{ tempo: 90 }, 90],
    ] as const) {
      const filled = filledIn(sheet, 'job', values);
      expect(filled.requirements.find(({ key }) => key === 'bars')).toMatchObject({ beats: 4, tempo });
      expect(filled.player.speaker).toEqual({ low: tempo, high: 16_000 });
    }
    expect(filledIn(loop, 'job', {})).toBe(loop);
    expect(filledIn(sheet, 'clip', {})).toBe(sheet);
  });

  test('with another usual value stay, and what they point to has it already', () => {
    const fast = withUsual(sheet, { tempo: 140 });
    expect(fast.blanks).toEqual([{ ...sheet.blanks[0], usual: 140 }]);
    expect(filledIn(fast, 'job', {})).toEqual(filledIn(sheet, 'job', { tempo: 140 }));
    expect({ ...fast, blanks: [] }).toEqual(filledIn(sheet, 'job', { tempo: 140 }));
    expect(fieldOf(sheet, sheet.blanks[0])).toMatchObject({ label: 'Tempo', unit: 'beats a minute', type: 'number' });
    expect(() => withUsual(sheet, { tempo: 5000 })).toThrow(/choose another value/);
    expect(() => withUsual(sheet, { flash: 9 })).toThrow('Loop player has no blank "flash"; choose one of: tempo.');
    expect(() => withUsual(loop, { tempo: 9 })).toThrow(
      'Loop player has no blank "tempo"; it has none, so leave it out.',
    );
  });

  test.each(
    targets.flatMap((target) => target.blanks.map((blank) => [target, blank] as const)),
  )('of a sheet that ships have the usual value in their places: $0.name, $1.id', (target, blank) => {
    expect(withUsual(target, { [blank.id]: blank.usual })).toEqual(target);
    expect(fieldOf(target, blank)).toBeDefined();
  });

  test('are refused what does not fit, and what they do not ask', () => {
    expect(() => filledIn(sheet, 'job', { tempo: 5000 })).toThrow(
      'Loop player cannot be filled in so: bars, tempo: it must be 400 or less; choose another value.',
    );
    expect(() => filledIn(sheet, 'job', { flash: 9 })).toThrow(
      'Loop player has no blank "flash" for a job; leave the value out.',
    );
  });
});

describe('what a player does and what its sheet asks', () => {
  const player = { reads: 'header', 'extra-chunks': 'refuses', 'plays-at': 8000, 'longest-name': 12 } as const;

  const following = followingFrom(player).requirements;

  test('requirements follow from traits, one of each kind', () => {
    expect(following).toEqual([
      { key: 'name', kind: 'name', mostWithExtension: 12 },
      { key: 'tags', kind: 'tags', rule: 'forbidden' },
      { key: 'sample-rate', kind: 'sample-rate', anyOf: [8000] },
    ]);
    expect(askedBy({ player: {}, requirements: [] })).toEqual([]);
    const narrow = { ...player, names: { plain: true }, 'plays-rates': { least: 4000 } } as const;
    expect(askedBy({ player: narrow, requirements: [] })).toEqual([
      { key: 'sample-rate', kind: 'sample-rate', anyOf: [8000] },
      { key: 'tags', kind: 'tags', rule: 'forbidden' },
      { key: 'name', kind: 'name', mostWithExtension: 12, plain: true },
    ]);
  });

  test('a requirement that asks for nothing is dropped from a sheet that was there before, with what refers to it', () => {
    const { without: _, ...old } = JSON.parse(sheetText(frozen('two-way-radio-prompt')));
    const empty = { key: 'duration', kind: 'duration' };
    const requirements = old.requirements.map((entry: { readonly key: string }) =>
      entry.key === 'duration' ? empty : entry,
    );
    const variant = {
      id: 'v',
      name: 'V',
      replace: { requirements: [{ key: 'n', kind: 'name' }] },
      without: ['duration'],
    };
    const read = readDocument('sheet', { ...old, requirements, variants: [variant] }, 'The sheet');
    expect(read.requirements.map(({ key }) => key)).not.toContain('duration');
    expect(read.blanks).toEqual([]);
    // Its player still needs it; the sheet never asked for that.
    expect(read.without).toEqual(['duration']);
    expect(read.variants[0]).toMatchObject({ replace: { requirements: [] }, without: [] });
  });

  test.each([
    ['mp3', 'mp3'],
    ['opus', 'ogg'],
    ['pcm-u5', 'headerless'],
    ['pcm-s16le', 'wav'],
  ])('a sheet that asks for %s and leaves the container open gets %s', (encoding, container) => {
    const sheet = {
      ...phone,
      player: {},
      variants: [],
      requirements: [{ key: 'e', kind: 'encoding' as const, anyOf: [encoding] }],
    };
    const read = readSheet(sheetText(sheet), 'sheet.json');
    expect(askedContainer(demandsOf(read))).toBe(container);
  });

  test('a player that needs what no file has is a remark, and the sheet opens', () => {
    const torn = { reads: 'header', 'plays-at': 8000, 'plays-rates': { least: 16_000 } } as const;
    const sheet = readSheet(
      sheetText({ ...phone, player: torn, requirements: [], variants: [], lists: [] }),
      'sheet.json',
    );
    expect(disagreements(sheet)).toEqual([
      'Its player needs sample rate: 16\u202f000 Hz or more, and sample rate: 8\u202f000 Hz: no file has both.',
    ]);
    expect(askedBy(sheet).map(({ kind }) => kind)).toEqual(['sample-rate']);
  });

  test('what is written takes the place of what follows under its key; what is not asked is left out', () => {
    const requirements: Target['requirements'] = [
      { key: 'name', kind: 'name', most: 20 },
      { key: 'peak', kind: 'peak', goal: -1, advised: true },
    ];
    expect(askedBy({ player, requirements, without: ['tags'] })).toEqual([
      { key: 'sample-rate', kind: 'sample-rate', anyOf: [8000] },
      { key: 'peak', kind: 'peak', goal: -1, advised: true },
      { key: 'name', kind: 'name', most: 20 },
    ]);
  });

  test.each<[string, Target['requirements'], readonly string[], number]>([
    ['writes all of it', [...following], [], 0],
    ['writes none of it', [], [], 0],
    ['does not ask for all of it', [], ['name', 'tags'], 2],
    ['only advises it', following.map((entry) => ({ ...entry, advised: true })), [], 3],
    [
      'asks for more than it, and for less',
      [
        { key: 'tags', kind: 'tags', rule: 'forbidden' },
        { key: 'name', kind: 'name', digits: 4, mostWithExtension: 12 },
        { key: 'sample-rate', kind: 'sample-rate', anyOf: [8000, 16_000] },
      ],
      [],
      1,
    ],
  ])('a sheet that %s', (_, requirements, without, count) => {
    expect(disagreements({ player, requirements, without: [...without] })).toHaveLength(count);
  });

  test.each(
    targets
      .filter(({ id }) => id !== 'console-sound-slot')
      .flatMap((target) => [null, ...target.variants.map(({ id }) => id)].map((id) => withVariant(target, id))),
  )('$name asks for what its player needs', (target) => {
    expect(disagreements(target)).toEqual([]);
  });
});
