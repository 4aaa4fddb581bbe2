import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterEach, beforeEach, expect, test } from 'vitest';
import { Threads } from './threads.ts';

let folder: string;
let threads: Threads<string, string>;

beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), 'tambur-threads-'));
  const worker = join(folder, 'worker.mjs');
  writeFileSync(
    worker,
    `export default async (word) => {
       if (word === 'hang') await new Promise(() => undefined);
       if (word === 'grow') { const all = []; for (;;) all.push(new Array(100_000).fill(all.length)); }
       return word + '!';
     }`,
  );
  threads = new Threads(worker, { most: 2, megabytes: 64 });
});

afterEach(async () => {
  await threads.close();
  rmSync(folder, { recursive: true, force: true });
});

test('what is queued goes on after a cancel, again and again', async () => {
  for (let round = 0; round < 15; round++) {
    const stop = new AbortController();
    const hanging = ['hang', 'hang'].map((word) => threads.run(word, { signal: stop.signal }));
    const queued = ['a', 'b', 'c'].map((word) => threads.run(word));
    const ended = Promise.allSettled(hanging);
    stop.abort();
    expect((await ended).map(({ status }) => status)).toEqual(['rejected', 'rejected']);
    expect(await Promise.all(queued)).toEqual(['a!', 'b!', 'c!']);
  }
});

test('what is cancelled before a thread takes it up is never begun', async () => {
  const stop = new AbortController();
  const hanging = ['hang', 'hang'].map((word) => threads.run(word, { signal: stop.signal }));
  const begun: string[] = [];
  const early = new AbortController();
  const waiting = threads.run('late', { signal: early.signal, begun: () => begun.push('late') });
  early.abort(new Error('no longer wanted'));
  stop.abort();
  await Promise.allSettled(hanging);
  await expect(waiting).rejects.toThrow('no longer wanted');
  expect(begun).toEqual([]);
});

test('a thread that wants too much memory ends alone, and the next task has a new one', async () => {
  await expect(threads.run('grow')).rejects.toThrow(/There is not enough memory for this/);
  expect(await threads.run('fine')).toBe('fine!');
});
