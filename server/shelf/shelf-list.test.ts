import { CORE_VERSION, type Facts } from '@tambur/core';
import { afterAll, beforeAll, expect, test } from 'vitest';
import type { ShelfList, ShelfQuery } from '../answers/views.ts';
import { clipRows, factsFixture, freshData, phoneJobRow } from '../fixtures/data.ts';
import { Clip, Job, ShelfEntry, Source, writing } from '../models/index.ts';
import { deleteSource, restoreSources } from './shelf.ts';
import { renewEntries, shelfList } from './shelf-list.ts';

let fresh: Awaited<ReturnType<typeof freshData>>;

/** Named, and otherwise a WAV file of 2 frames but for these; each was added a second after the one before. */
const shelf: readonly (readonly [name: string, facts?: Partial<Facts>])[] = [
  ['bell 9.wav', { frames: 9 }],
  [
    'bell 10.mp3',
    { container: 'mp3', encoding: 'mp3', bitDepth: null, tags: [{ name: 'artist', value: 'Hill Band' }] },
  ],
  ['Film.mkv', { container: 'matroska', encoding: 'flac', sampleRate: 44_100, frames: 44_100 }],
  ['x.raw', { container: 'headerless', encoding: 'mu-law', certainty: 'assumed', bytes: 99 }],
  ['éclair.mp3', { channels: 2 }],
];

beforeAll(async () => {
  fresh = await freshData();
  for (const [i, [name, facts]] of shelf.entries()) {
    const createdAt = new Date(Date.UTC(2026, 0, 1, 0, 0, i));
    const row = { id: `s${i}`, name, sha256: `${i}`, key: `${i}`, waveform: '', createdAt };
    await Source.create({ ...row, facts: { ...factsFixture(), ...facts } });
  }
  for (const [title, sources] of [
    ['Ticket HÜTTE', ['s2', 's2', 's3']],
    ['Phones', ['s2']],
  ] as const) {
    const { id } = await Job.create(phoneJobRow(title));
    for (const source of sources) await Clip.bulkCreate(clipRows(id, source, ['A']));
  }
});

afterAll(() => fresh.remove());

const list = async (query: Partial<ShelfQuery>) => {
  const usual: ShelfQuery = { search: '', filter: 'all', order: 'added', isDescending: true };
  const { all, ids }: ShelfList = JSON.parse(await shelfList({ ...usual, ...query }));
  expect(all).toBe(shelf.length);
  return ids.map((id) => id.slice(1)).join('');
};

test.each<[Partial<ShelfQuery>, string]>([
  [{}, '43210'],
  [{ isDescending: false }, '01234'],
  // Numbers count as numbers, letters whatever their case and marks.
  [{ order: 'name', isDescending: false }, '01423'],
  // What is alike stands in the order in which it was added, the newest first.
  [{ order: 'kind', isDescending: false }, '40213'],
  [{ order: 'rate' }, '24310'],
  [{ order: 'channels' }, '43210'],
  [{ order: 'length' }, '20431'],
  [{ order: 'size' }, '34210'],
  [{ order: 'jobs' }, '23410'],
])('sorted as in %j', async (query, wanted) => expect(await list(query)).toBe(wanted));

test.each<[ShelfQuery['search'], ShelfQuery['filter'], string]>([
  ['hill', 'all', '1'],
  ['BELL 8\u202f000', 'all', '10'],
  ['bell 8000 hill', 'all', '1'],
  ['mu-law', 'all', '3'],
  ['hütte', 'all', '32'],
  ['hütte film', 'all', '2'],
  ["'; --", 'all', ''],
  ['%', 'all', ''],
  ['', 'plain', '40'],
  ['', 'lossy', '1'],
  ['', 'lossless', ''],
  ['', 'video', '2'],
  ['', 'bare', '3'],
  ['', 'unused', '410'],
  // An MP3 file by its name, and not by what is in it.
  ['', 'remarked', '4'],
])('search %j among %s', async (search, filter, wanted) => expect(await list({ search, filter })).toBe(wanted));

test('a change of a source is found at once; what is deleted is not on the list until it is back', async () => {
  const source = await Source.findByPk('s0', { rejectOnEmpty: true });
  await source.update({ name: 'gong.wav' });
  expect([await list({ search: 'gong' }), await list({ search: 'bell' })]).toEqual(['0', '1']);
  await deleteSource(source, fresh.data, fresh.sequelize);
  const gone = await shelfList({ search: '', filter: 'all', order: 'added', isDescending: true });
  expect(JSON.parse(gone)).toEqual({ all: 4, ids: ['s4', 's3', 's2', 's1'] });
  await writing(fresh.sequelize, (transaction) => restoreSources(['s0'], transaction));
  expect(await list({ search: 'gong' })).toBe('0');
});

test('entries that are not there, or in the words of another version, are made at the start; others stay', async () => {
  await ShelfEntry.destroy({ where: { sourceId: 's1' } });
  await ShelfEntry.update({ madeBy: '0.0.1', words: 'old' }, { where: { sourceId: 's2' } });
  await ShelfEntry.update({ words: 'kept' }, { where: { sourceId: 's3' } });
  expect([await list({ search: 'hill' }), await list({ search: 'film' })]).toEqual(['', '']);
  await renewEntries(fresh.sequelize);
  expect([await list({ search: 'hill' }), await list({ search: 'film' }), await list({ search: 'kept' })]).toEqual([
    '1',
    '2',
    '3',
  ]);
  expect(await ShelfEntry.count({ where: { madeBy: CORE_VERSION } })).toBe(shelf.length);
});
