import { expect, test } from 'vitest';
import { firmwareQuestion, sheetSchema, targetOf, type Variant, variantForFirmware } from './index.ts';

const variant = (id: string, firmware?: Variant['firmware']): Variant => ({
  ...{ id, name: id, replace: {}, without: [] },
  ...(firmware ? { firmware } : {}),
});
const sheet = {
  variants: [variant('old', { upTo: '2.1' }), variant('middle', { from: '2.2', upTo: '10' }), variant('mono')],
};

test.each([
  ['1', 'old'],
  ['2.1', 'old'],
  // Up to 2.1 means all of 2.1.
  ['2.1.7', 'old'],
  ['2.2', 'middle'],
  ['9.9', 'middle'],
  ['10.4', 'middle'],
  ['11', null],
  ['2.10', 'middle'],
])('firmware %s: the variant %s', (given, wanted) => {
  const found = variantForFirmware(sheet, ` ${given} `);
  expect(found?.variant).toBe(wanted);
  expect(found?.why).toMatch(wanted ? new RegExp(`: ${wanted}, which holds (from|up to) `) : /the sheet itself holds/);
});

test('what is no number of a firmware chooses nothing', () => {
  for (const given of ['', 'new', '2.', '2..1', '-1']) expect(variantForFirmware(sheet, given)).toBeNull();
});

test('a number is asked for where one is known, otherwise whether it is older; no number is made up', () => {
  expect(firmwareQuestion(sheet)).toBe('number');
  expect(firmwareQuestion(targetOf('show-controller-track'))).toBe('older');
  expect(firmwareQuestion(targetOf('telephone-system-message'))).toBeNull();
  expect(firmwareQuestion({ variants: [] })).toBeNull();
  const { success } = sheetSchema['~standard'].validate({
    ...targetOf('show-controller-track'),
    variants: [variant('x', { from: 'two' })],
  }) as { success?: boolean };
  expect(success).toBeFalsy();
});
