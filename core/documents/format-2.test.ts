import { readdirSync, readFileSync } from 'node:fs';
import { describe, expect, test } from 'vitest';
import { targets } from '../targets/index.ts';
import { parseDocument, readSheet, sheetText } from './index.ts';

const at = (name: string) => new URL(`./fixtures/format-2/${name}`, import.meta.url);
const frozen = (name: string) => readFileSync(at(name), 'utf8');

describe('sheets of format 2', () => {
  test.each([
    ...readdirSync(at('sheets')).map((name) => `sheets/${name}`),
    'own-traits.json',
    'own-requirements.json',
  ])('%s is read as it stands, and what ships today is it or a later edition', (name) => {
    const old = readSheet(frozen(name), name);
    expect(sheetText(old)).toBe(frozen(name));
    const today = targets.find(({ id }) => id === old.id);
    if (name.startsWith('sheets/')) expect(today?.edition).toBeGreaterThanOrEqual(old.edition);
    if (today?.edition === old.edition) expect(today).toEqual(old);
  });
});

test('a delivery of format 2 is read as it stands', () => {
  expect(parseDocument('delivery', frozen('delivery.json'), 'delivery.json')).toEqual(
    JSON.parse(frozen('delivery.json')),
  );
});
