import { createHash } from 'node:crypto';
import { readdirSync, readFileSync } from 'node:fs';
import { basename } from 'node:path';
import {
  type ClipDoc,
  type Facts,
  folderOf,
  inMemory,
  makeClip,
  plannedFiles,
  readDocument,
  readSheet,
  sequentialReader,
  setFiles,
  settingsOf,
  settle,
  surveyStream,
  type Target,
  targets,
  unwatched,
  wholeOf,
  withVariant,
} from '@tambur/core';
import { describe, expect, test } from 'vitest';
import { library, openSourceStream } from './index.ts';

/**
 * Documents of format 1 give the files that they gave when format 1 was the present one: the hashes were taken then, with
 * the program as it was (`hashes.json`). Those of four clips that are longer than a second were taken again with core 0.3.0,
 * which changes the rate of long sounds in another way; the code that reads documents was the same before and after.
 */
const at = (path: string) => new URL(`../${path}`, import.meta.url);
const frozen = (name: string) => JSON.parse(readFileSync(at(`core/documents/fixtures/format-1/${name}`), 'utf8'));
const hashes: Record<string, Record<string, string>> = frozen('hashes.json');
const sha = (bytes: Uint8Array) => createHash('sha256').update(bytes).digest('hex');

/** The clips of a job of format 1, each with the file of the demo that is its source. */
function clipsOf(clips: readonly { readonly file: string; readonly settings: object }[], sheet: string) {
  const old = clips.map(({ file, settings }, i) => ({
    id: `00000000-0000-4000-8000-${String(i).padStart(12, '0')}`,
    sourceId: file,
    settings,
  }));
  return readDocument('job', { title: 'Job', targetId: sheet, clips: old }, 'The job').clips;
}

const opened = new Map<string, Promise<{ facts: Facts; stream: Awaited<ReturnType<typeof openSourceStream>> }>>();
const open = (file: string) =>
  opened.get(file) ??
  opened
    .set(
      file,
      (async () => {
        const stream = await openSourceStream(inMemory(readFileSync(at(`demo/sounds/${file}`))));
        return { stream, facts: await surveyStream(stream, () => undefined) };
      })(),
    )
    .get(file)!;

/** Hashes of all files of a set. */
async function made(target: Target, clips: readonly ClipDoc[]): Promise<Record<string, string>> {
  const files = plannedFiles(clips, {}, target);
  const folder = folderOf(target);
  const sounds = [];
  for (const [i, clip] of clips.entries()) {
    const { stream, facts } = await open(clip.pieces[0].source);
    const chain = settle({ facts, settings: settingsOf(clip, { wishes: {} }), target, stem: files[i].stem });
    const { file, facts: result } = await makeClip(chain, sequentialReader(stream, facts), unwatched, { library });
    const path = folder ? `${folder}/${chain.fileName}` : chain.fileName;
    sounds.push({
      path,
      displayName: clip.name,
      fileName: basename(path),
      facts: result,
      slots: files[i].slots,
      bytes: wholeOf(file),
    });
  }
  const beside = await setFiles(target, sounds, async ({ bytes }) => new TextDecoder().decode(bytes));
  const isPacked = beside.some(({ role }) => role === 'pack');
  return Object.fromEntries([...(isPacked ? [] : sounds), ...beside].map(({ path, bytes }) => [path, sha(bytes)]));
}

const names = readdirSync(at('core/documents/fixtures/format-1/sheets'));
const sheets = [...names.map((name) => `sheets/${name}`), 'own-sheet.json'].map((name) =>
  readSheet(JSON.stringify(frozen(name)), name),
);
const editions = (all: readonly Target[]) =>
  all.flatMap((sheet) =>
    [null, ...sheet.variants.map(({ id }) => id)].map((id) => ({
      name: `${sheet.id} ${id ?? ''}`.trim(),
      sheet: withVariant(sheet, id),
    })),
  );

/** Sheets that have been corrected since: a device that reads no header cannot know that a sound is mono. */
const CORRECTED = ['i2s-amplifier-board headerless'];
const asTheyShip = targets.filter(({ edition }) => edition > 1);

describe.each([
  ['as it was read from format 1', editions(sheets)],
  ['as it ships today', editions(asTheyShip).filter(({ name }) => !CORRECTED.includes(name))],
])('a sheet %s gives the same files', (_, all) => {
  // Variants that have come since have no hashes from then.
  test.each(all.filter(({ name }) => name in hashes))('$name', async ({ name, sheet }) => {
    expect(await made(sheet, clipsOf(frozen('clips.json'), sheet.id))).toEqual(hashes[name]);
  });
});

const { jobs } = frozen('demo.json');
test.each<[string, { targetId: string; variantId?: string; clips: { file: string }[] }]>(
  jobs.map((job: { title: string }) => [job.title, job]),
)('the demo job %s gives the same files', async (title, { targetId, variantId, clips }) => {
  const sheet = targets.find(({ id }) => id === targetId)!;
  const old = clips.map(({ file, ...settings }) => ({ file, settings: { version: 1, ...settings } }));
  expect(await made(withVariant(sheet, variantId ?? null), clipsOf(old, targetId))).toEqual(hashes[title]);
});

test('every frozen hash is asked for', () => {
  const asked = [...editions(sheets).map(({ name }) => name), ...jobs.map(({ title }: { title: string }) => title)];
  expect(Object.keys(hashes).sort()).toEqual(asked.sort());
});
