import { randomUUID } from 'node:crypto';
import { mkdtempSync, readdirSync, statSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join, relative } from 'node:path';
import { fileURLToPath } from 'node:url';
import { EMPTY_JOB, newClip, targetOf } from '@tambur/core';
import { expect, test } from 'vitest';
import { build } from './commands/build.ts';
import { makeSet } from './make-set.ts';
import { eachFile, type Output } from './output.ts';

const demo = fileURLToPath(new URL('../demo/sounds/departure-chime.flac', import.meta.url));

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

test.each([
  [{}, 4, 5],
  [{ edition: 4, offered: 5 }, 4, 0],
  [{ edition: 5 }, 5, 0],
  [{ variant: 'wav' }, 5, 0],
])('a job written by hand, with %j, is made for edition %i, and %i lines say what a newer one changes', async (more, edition, lines) => {
  const path = join(folder(), 'slot.json');
  const clips = [newClip(randomUUID(), 'Bell', relative(dirname(path), demo))];
  writeFileSync(path, JSON.stringify({ ...job, sheet: 'console-sound-slot', clips, ...more }));
  const words: string[] = [];
  const out = folder();
  await build(saying(words), path, { out });
  const said = words.filter((line) => line.startsWith('  ') || /edition/.test(line));
  expect(said).toHaveLength(lines);
  // Edition 4 lowers the rate until the sound fits into 48 000 bytes; edition 5 makes it for the rate at which it is played.
  const [{ size }] = readdirSync(out).flatMap((name) =>
    /^bell\.(bin|wav)$/.test(name) ? [statSync(join(out, name))] : [],
  );
  expect(size > 48_044).toBe(edition === 5);
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
