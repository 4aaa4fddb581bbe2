import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { existsSync, mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterEach, beforeEach, expect, test } from 'vitest';
import { lockFolder } from './lock.ts';

let folder: string;
const releases: (() => Promise<void>)[] = [];

beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), 'tambur-lock-'));
});
afterEach(async () => {
  for (const release of releases.splice(0)) await release();
  rmSync(folder, { recursive: true });
});

async function take(): Promise<number | null | 'taken'> {
  const lock = await lockFolder(folder, (error) => {
    throw error;
  });
  if ('heldBy' in lock) return lock.heldBy;
  releases.push(lock.release);
  return 'taken';
}

/** What a process that held the folder left behind when it ended at once. */
function leave(pid: number): void {
  mkdirSync(join(folder, 'lock.dir'));
  writeFileSync(join(folder, 'lock.json'), JSON.stringify({ pid }));
}

test('a folder is taken once; who has it is said; set free, it can be taken again', async () => {
  expect(await take()).toBe('taken');
  expect(JSON.parse(readFileSync(join(folder, 'lock.json'), 'utf8'))).toEqual({ pid: process.pid });
  expect(await take()).toBe(process.pid);
  await releases.pop()?.();
  expect(existsSync(join(folder, 'lock.json'))).toBe(false);
  expect(await take()).toBe('taken');
});

test('of several at once one gets it', async () => {
  const answers = await Promise.all(Array.from({ length: 8 }, take));
  expect(answers.filter((answer) => answer === 'taken')).toHaveLength(1);
});

test('the lock of a process that is gone counts for nothing', async () => {
  const child = spawn(process.execPath, ['-e', '']);
  await once(child, 'exit');
  leave(child.pid ?? 0);
  expect(await take()).toBe('taken');
});

test('that of a process which runs stands, whoever it belongs to', async () => {
  // The first process of the system: it runs, and may not be signalled by everybody.
  leave(1);
  expect(await take()).toBe(1);
});

test.each(['', '{', '[]', '{"pid":"1"}', '{"pid":1.5}'])('a note that says nothing (%j) names nobody', async (text) => {
  leave(1);
  writeFileSync(join(folder, 'lock.json'), text);
  expect(await take()).toBeNull();
});
