import { readFileSync } from 'node:fs';
import Ajv from 'ajv';
import { describe, expect, test } from 'vitest';
import { SCHEMA_FILE, sheetSchema } from '../../scripts/sheet-schema.ts';
import { readSheet, sheetText, targets, withVariant } from './index.ts';

const [phone] = targets;
const text = sheetText(phone);

describe('the file of a sheet', () => {
  test.each(targets.map((target) => [target.id, target] as const))('%s comes back as it was', (_, target) => {
    expect(readSheet(sheetText(target), 'sheet.json')).toEqual(target);
  });

  test.each([
    ['a wrong type', text.replace('"headerless"', '3'), 'sheet.json, line 9: requirements.0.anyOf.0: '],
    [
      'an unknown kind',
      text.replace('"kind": "encoding"', '"kind": "codec"'),
      'sheet.json, line 13: requirements.1.kind: ',
    ],
    ['a missing entry', text.replace('"about"', '"abuot"'), 'sheet.json, line 1: about: '],
    [
      'an entry too many',
      text.replace('"anyOf": [\n        "raw"', '"any": 1, "anyOf": [\n        "raw"'),
      'requirements.8.any: ',
    ],
    ['half a file', text.slice(0, 200), 'sheet.json, line 6: this is not JSON: close bracket expected'],
    [
      'a comma too many',
      text.replace('"desk-phone-ring-tone",', '"desk-phone-ring-tone",,'),
      'line 2: this is not JSON',
    ],
    ['nothing', '', 'sheet.json, line 1: this is not JSON'],
    [
      'a container that there is not',
      text.replace('"headerless"', '"tape"'),
      'line 9: requirements.0.anyOf.0: there is no such container; there are wav,',
    ],
    [
      'an encoding that there is not',
      text.replace('"mu-law"', '"nu-law"'),
      'line 15: requirements.1.anyOf.0: there is no such encoding; there are pcm-u8,',
    ],
    [
      'a container that cannot carry the encoding',
      text.replace('"headerless"', '"mp3"'),
      'line 1: the sheet: no file can meet Desk phone ring tone: MP3 cannot carry mu-law',
    ],
    [
      'an edition whose encoding cannot carry the rate',
      text.replace(
        '"variants": [',
        '"variants": [{ "id": "o", "name": "O", "requirements": [{ "kind": "container", "anyOf": ["ogg"] }, { "kind": "encoding", "anyOf": ["opus"] }] }, ',
      ),
      'no file can meet Desk phone ring tone, O: Opus cannot carry 8\u202f000 Hz',
    ],
    [
      'a variant that takes away what there is not',
      text.replace(
        '"variants": [',
        '"variants": [{ "id": "o", "name": "O", "requirements": [], "without": ["codec"] }, ',
      ),
      'variants.0.without.0: there is no such kind of requirement',
    ],
    [
      'two variants of one id',
      text.replace('"variants": [', '"variants": [{ "id": "older-sets", "name": "O", "requirements": [] }, '),
      'the sheet: two variants have the same id',
    ],
    [
      'a rate and a range',
      text.replace('"anyOf": [\n        8000\n      ]', '"anyOf": [8000], "most": 9000'),
      'requirements.2: a sample rate is either',
    ],
  ])('%s is refused with its line', (_, broken, message) => {
    expect(broken).not.toBe(text);
    expect(() => readSheet(broken, 'sheet.json')).toThrow(message);
  });
});

describe('the published JSON Schema', () => {
  const validate = new Ajv({ strict: false }).compile(JSON.parse(sheetSchema()));

  test('is the one that is shipped: npm run schema', () => {
    expect(readFileSync(SCHEMA_FILE, 'utf8')).toBe(sheetSchema());
  });

  test.each(targets.map((target) => [target.id, target] as const))('%s: another validator accepts it', (_, target) => {
    validate(JSON.parse(sheetText(target)));
    expect(validate.errors ?? []).toEqual([]);
  });

  test.each([
    ['no requirement', { ...phone, requirements: [] }],
    ['a wrong type', { ...phone, requirements: [{ kind: 'encoding', anyOf: 'mu-law' }] }],
    ['a bad id', { ...phone, id: 'Desk Phone' }],
    ['an entry too many', { ...phone, brand: 'x' }],
  ])('%s: it refuses it', (_, sheet) => {
    expect(validate(sheet)).toBe(false);
  });
});

describe('variants', () => {
  test.each([
    ['show-controller-track', 'older-firmware', 'bit-rate', { kind: 'bit-rate', anyOf: [128_000], constant: true }],
    ['numbered-sound-module', '4-bit', 'encoding', { kind: 'encoding', anyOf: ['ima-adpcm'] }],
  ])('%s, %s: one requirement takes the place of another, the rest stays', (id, variant, kind, wanted) => {
    const sheet = targets.find((target) => target.id === id)!;
    const edition = withVariant(sheet, variant);
    expect(edition.requirements.filter((entry) => entry.kind === kind)).toEqual([wanted]);
    expect(edition.requirements.map((entry) => entry.kind)).toEqual(sheet.requirements.map((entry) => entry.kind));
  });

  test('advised and not advised ones are apart; kinds can be left out; what is new comes last', () => {
    const sheet = {
      ...phone,
      requirements: [
        { kind: 'duration' as const, most: 4 },
        { kind: 'duration' as const, most: 3, advised: true },
        { kind: 'tags' as const, rule: 'forbidden' as const },
      ],
      variants: [
        {
          id: 'b',
          name: 'b',
          requirements: [
            { kind: 'duration' as const, most: 9 },
            { kind: 'file-size' as const, most: 5 },
          ],
          without: ['tags'],
        },
      ],
    };
    expect(withVariant(sheet, 'b').requirements).toEqual([
      { kind: 'duration', most: 9 },
      { kind: 'duration', most: 3, advised: true },
      { kind: 'file-size', most: 5 },
    ]);
    expect(withVariant(sheet, null)).toBe(sheet);
  });
});
