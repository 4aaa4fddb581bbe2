import { randomUUID } from 'node:crypto';
import { mkdtempSync, readdirSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { EMPTY_JOB, newClip, targetOf } from '@tambur/core';
import { expect, test } from 'vitest';
import { build } from './commands/build.ts';
import { makeSet } from './make-set.ts';
import { eachFile, type Output } from './output.ts';

const saying = (words: string[]): Output => ({
  data: () => undefined,
  words: (text) => words.push(text),
  progress: () => undefined,
});
const folder = () => mkdtempSync(join(tmpdir(), 'tambur-set-'));
const job = {
  ...EMPTY_JOB,
  format: 2 as const,
  title: 'Hut',
  sheet: 'desk-phone-ring-tone',
  variant: null,
  clips: [newClip(randomUUID(), 'Bell', 'gone')],
};

test('a clip whose source is not known is named, and nothing is made', async () => {
  const out = folder();
  const order = { job, sheet: targetOf(job.sheet), sources: new Map() };
  await expect(makeSet(saying([]), order, { out })).rejects.toThrow(
    'The job does not name the source of Bell; export it again.',
  );
  expect(readdirSync(out)).toEqual([]);
});

test('a job written by hand names no hashes of lists', async () => {
  const path = join(folder(), 'hut.json');
  writeFileSync(path, JSON.stringify({ ...job, ownLists: { list: '0'.repeat(64) } }));
  await expect(build(saying([]), path, { out: folder() })).rejects.toThrow(/name the device's list with --list\.$/);
});

test('what is said of files comes in their order, whichever is done first', async () => {
  const words: string[] = [];
  let last: () => void = () => undefined;
  const lastIsDone = new Promise<void>((resolve) => {
    last = resolve;
  });
  const use = async (file: string) => {
    if (file === 'c') last();
    else await lastIsDone;
    if (file === 'b') throw new Error('no such thing');
    return file;
  };
  const output = saying(words);
  const options = { count: 3, say: (file: string) => output.words(`${file} is made`) };
  const { results } = await eachFile(['a', 'b', 'c'], output, {}, use, options);
  expect(results).toEqual(['a', 'c']);
  expect(words).toEqual(['a is made', expect.stringMatching(/^b: failed/), 'c is made']);
});
