import { mkdtempSync, renameSync, rmSync, symlinkSync, utimesSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setImmediate } from 'node:timers/promises';
import { afterAll, expect, test } from 'vitest';
import { FollowedFiles } from './watch.ts';

const folder = mkdtempSync(join(tmpdir(), 'watch-'));
afterAll(() => rmSync(folder, { recursive: true }));

const file = join(folder, 'bell.wav');
const other = join(folder, 'doors.wav');

test.each<[string, () => void]>([
  ['another size', () => writeFileSync(file, 'longer than before')],
  ['another time', () => utimesSync(file, 1_000_000, 1_000_000)],
  [
    'replaced by another file',
    () => {
      writeFileSync(join(folder, 'new'), 'a new one');
      renameSync(join(folder, 'new'), file);
    },
  ],
  ['the second one, there at last', () => writeFileSync(other, 'doors')],
])('what changes between being taken note of and being waited for counts: %s', async (_, change) => {
  writeFileSync(file, 'bell');
  rmSync(other, { force: true });
  const files = new FollowedFiles();
  expect([files.take(file), files.take(other), files.all]).toEqual([file, other, [file, other]]);
  change();
  await files.change();
});

test('a file that cannot be looked at does not end the waiting', async () => {
  const link = join(folder, 'loop');
  symlinkSync(link, link);
  const files = new FollowedFiles();
  files.take(link);
  const change = files.change();
  rmSync(link);
  writeFileSync(link, 'bell');
  await change;
});

test('of two looks at a file the first one counts; a file that is not there for a moment is no change', async () => {
  writeFileSync(file, 'bell');
  const files = new FollowedFiles();
  files.take(file);
  rmSync(file);
  files.take(file);
  let isOver = false;
  const change = files.change().then(() => {
    isOver = true;
  });
  await setImmediate();
  expect(isOver).toBe(false);
  writeFileSync(file, 'another bell');
  await change;
});
