import { type JobDoc, movedOn, readDocument, sheetFor, type Target, targetOf, targets } from '@tambur/core';
import { expect, test } from 'vitest';
import { editionsOf, frozenDocuments, hashesOf } from './fixtures/frozen.ts';

/** Documents of format 2 give the files that they gave with core 0.4.0, of which the hashes were taken (`hashes.json`). */
const { json, hashes, today, sheets: sheetsAnd } = frozenDocuments(2);

const sheets = sheetsAnd(['own-traits.json', 'own-requirements.json']);
const sheetOf = (id: string): Target => sheets.find((sheet) => sheet.id === id)!;

/** Sheets that have had a later edition since, on which the same clips come to the same files. */
const later = targets.filter(({ id, edition }) => edition > (sheetOf(id)?.edition ?? edition));

const editions = [
  ...editionsOf(sheets).map((entry) => ({ ...entry, as: 'as it was', wanted: hashes[entry.name] })),
  ...editionsOf(later).map((entry) => ({
    ...entry,
    as: 'as it ships today',
    wanted: today[entry.name] ?? hashes[entry.name],
  })),
  // Variants that have come since have no hashes from then.
].filter(({ wanted }) => wanted);
test.each(editions)('the sheet $name $as gives the same files', async ({ sheet, wanted }) => {
  expect(await hashesOf(sheet, { clips: json('clips.json') })).toEqual(wanted);
});

const jobs: readonly JobDoc[] = json('jobs.json').map((job: unknown) => readDocument('job', job, 'The job'));

test.each(jobs.map((job) => [job.title, job] as const))('the job %s gives the same files', async (title, job) => {
  expect(await hashesOf(sheetFor(sheetOf(job.sheet), job.variant, job.values), job)).toEqual(hashes[title]);
});

test.each(
  jobs.filter(({ sheet }) => targets.some(({ id }) => id === sheet)).map((job) => [job.title, job] as const),
)('the job %s keeps its edition of a sheet that ships, and so its files', async (title, job) => {
  const { edition, variant } = movedOn(job);
  expect(await hashesOf(sheetFor(targetOf(job.sheet, edition), variant, job.values), job)).toEqual(hashes[title]);
});

test('every frozen hash is asked for', () => {
  const asked = [...editionsOf(sheets).map(({ name }) => name), ...jobs.map(({ title }) => title)];
  expect(Object.keys(hashes).sort()).toEqual(asked.sort());
  expect(asked).toEqual(expect.arrayContaining(Object.keys(today)));
});
