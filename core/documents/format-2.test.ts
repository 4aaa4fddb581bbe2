import { readdirSync, readFileSync } from 'node:fs';
import { describe, expect, test } from 'vitest';
import { askedBy, filledIn, type Requirement, sheetFor, targets } from '../targets/index.ts';
import { parseDocument, readSheet, sheetText } from './index.ts';

const at = (name: string) => new URL(`./fixtures/${name}`, import.meta.url);
const frozen = (name: string) => readFileSync(at(name), 'utf8');

const OWN = ['format-1/own-sheet.json', 'format-2/own-traits.json', 'format-2/own-requirements.json'];
const SHIPPED = ['format-1', 'format-2'].flatMap((format) =>
  readdirSync(at(`${format}/sheets`)).map((name) => `${format}/sheets/${name}`),
);

/** What each sheet and variant asked, by keys, when it had to write all of that itself: with the usual values in its blanks. */
const asked: Readonly<Record<string, Readonly<Record<string, object>>>> = JSON.parse(frozen('asked.json'));

const askedNow = (requirements: readonly Requirement[]) =>
  Object.fromEntries(requirements.map(({ key, ...rest }) => [key, rest]));

describe('sheets that exist', () => {
  test.each([...SHIPPED, ...OWN])('%s asks what it asked, in every variant', (name) => {
    const sheet = readSheet(frozen(name), name);
    expect(readSheet(sheetText(sheet), name)).toEqual(sheet);
    for (const id of [null, ...sheet.variants.map((variant) => variant.id)]) {
      const edition = filledIn(sheetFor(sheet, id, {}), 'clip', {});
      expect(askedNow(askedBy(edition)), `variant ${id}`).toEqual(asked[id === null ? name : `${name} ${id}`]);
    }
  });

  test.each(SHIPPED)('of %s the same or a later edition ships', (name) => {
    const old = readSheet(frozen(name), name);
    const today = targets.find(({ id }) => id === old.id);
    expect(today?.edition).toBeGreaterThanOrEqual(old.edition);
    if (today?.edition === old.edition) expect(today).toEqual(old);
  });
});

test('a delivery of format 2 is read as it stands, and its sheet asks what it asked', () => {
  const written = JSON.parse(frozen('format-2/delivery.json'));
  const { sheet, ...rest } = parseDocument('delivery', frozen('format-2/delivery.json'), 'delivery.json');
  expect({ ...rest, sheet: written.sheet }).toEqual(written);
  expect(askedBy(sheet)).toEqual(written.sheet.requirements);
});
