import { readDocument, targets, withVariant } from '@tambur/core';
import { describe, expect, test } from 'vitest';
import { editionsOf, frozenDocuments, hashesOf } from './fixtures/frozen.ts';

/**
 * Documents of format 1 give the files that they gave when format 1 was the present one: the hashes were taken then, with
 * the program as it was (`hashes.json`). Those of four clips that are longer than a second were taken again with core 0.3.0,
 * which changes the rate of long sounds in another way; the code that reads documents was the same before and after.
 */
const { json, hashes, today, sheets: sheetsAnd } = frozenDocuments(1);

/** The clips of a job of format 1, each with the file of the demo that is its source. */
function clipsOf(clips: readonly { readonly file: string; readonly settings: object }[], sheet: string) {
  const old = clips.map(({ file, settings }, i) => ({
    id: `00000000-0000-4000-8000-${String(i).padStart(12, '0')}`,
    sourceId: file,
    settings,
  }));
  return readDocument('job', { title: 'Job', targetId: sheet, clips: old }, 'The job');
}

const sheets = sheetsAnd(['own-sheet.json']);

/** Sheets that have been corrected since: a device that reads no header cannot know that a sound is mono. */
const CORRECTED = ['i2s-amplifier-board headerless'];
const asTheyShip = targets.filter(({ edition }) => edition > 1);

describe.each([
  ['as it was read from format 1', editionsOf(sheets), hashes],
  [
    'as it ships today',
    editionsOf(asTheyShip).filter(({ name }) => !CORRECTED.includes(name)),
    { ...hashes, ...today },
  ],
])('a sheet %s gives the same files', (_, all, wanted) => {
  // Variants that have come since have no hashes from then.
  test.each(all.filter(({ name }) => name in wanted))('$name', async ({ name, sheet }) => {
    expect(await hashesOf(sheet, { clips: clipsOf(json('clips.json'), sheet.id).clips })).toEqual(wanted[name]);
  });
});

const { jobs } = json('demo.json');
test.each<[string, { targetId: string; variantId?: string; clips: { file: string }[] }]>(
  jobs.map((job: { title: string }) => [job.title, job]),
)('the demo job %s gives the same files', async (title, { targetId, variantId, clips }) => {
  const sheet = targets.find(({ id }) => id === targetId)!;
  const old = clips.map(({ file, ...settings }) => ({ file, settings: { version: 1, ...settings } }));
  expect(await hashesOf(withVariant(sheet, variantId ?? null), clipsOf(old, targetId))).toEqual(hashes[title]);
});

test('every frozen hash is asked for', () => {
  const asked = [...editionsOf(sheets).map(({ name }) => name), ...jobs.map(({ title }: { title: string }) => title)];
  expect(Object.keys(hashes).sort()).toEqual(asked.sort());
  expect(asked).toEqual(expect.arrayContaining(Object.keys(today)));
});
