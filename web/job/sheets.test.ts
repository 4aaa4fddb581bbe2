import { targetOf } from '@tambur/core';
import type { SheetView } from '@tambur/server';
import { describe, expect, test } from 'vitest';
import { copyOf, idFrom, sheetOf, sheetOfJob } from './sheets.ts';

const view: SheetView = {
  ...targetOf('show-controller-track'),
  isOwn: true,
  words: {},
  usedBy: [{ jobId: 'j', title: 'Tunes' }],
};

test.each([
  ['Spare cabin board', 'spare-cabin-board'],
  ['  Übertragung: 2. Teil!', 'ubertragung-2-teil'],
  ['---', 'sheet'],
  ['x'.repeat(70), 'x'.repeat(50)],
  [`${'x'.repeat(49)} y`, 'x'.repeat(49)],
])('the id of a sheet called %j is %s', (name, id) => expect(idFrom(name)).toBe(id));

describe('a sheet as the page has it', () => {
  test('is stored without what only the page wants to know', () => {
    expect(sheetOf(view)).toEqual(targetOf('show-controller-track'));
  });

  test('is copied under a name of its own', () => {
    const copy = copyOf(sheetOf(view));
    expect(copy).toMatchObject({ name: 'Show controller track, copy', id: 'show-controller-track-copy' });
    expect(copy.requirements).toEqual(view.requirements);
    expect(copyOf({ ...copy, name: 'n'.repeat(60) }).name.length).toBeLessThanOrEqual(60);
  });

  test.each([
    [null, sheetOf(view)],
    ['older-firmware', sheetOf(view)],
    ['gone', undefined],
  ])('for a job with the variant %j', (variant, wanted) => {
    expect(sheetOfJob([view], { sheet: view.id, edition: null, variant })).toEqual(wanted);
  });

  test('that ships, for a job, is in the edition that the job was made for', () => {
    const shipped = { ...view, ...targetOf('console-sound-slot'), isOwn: false };
    const job = { sheet: shipped.id, variant: null };
    expect(sheetOfJob([shipped], { ...job, edition: 4 })?.edition).toBe(4);
    expect(sheetOfJob([shipped], { ...job, edition: shipped.edition })).toEqual(sheetOf(shipped));
  });

  test('that has gone is none', () => {
    expect(sheetOfJob([view], { sheet: 'gone', edition: null, variant: null })).toBeUndefined();
  });
});
