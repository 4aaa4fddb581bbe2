import { readdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect, test } from '@playwright/test';
import type { DeliveryView, JobSummary } from '@tambur/server';
import { scratch } from './support/files.ts';
import { Server } from './support/server.ts';

/** Everything out while it is at work, and into a folder of its own again. */

const json = async <T>(url: string): Promise<T> => (await fetch(url)).json() as Promise<T>;
const post = async <T>(url: string): Promise<T> => (await fetch(url, { method: 'POST' })).json() as Promise<T>;

async function built(url: string, jobId: string): Promise<DeliveryView> {
  const { id } = await post<DeliveryView>(`${url}/api/jobs/${jobId}/deliveries`);
  const view = () => json<DeliveryView>(`${url}/api/deliveries/${id}`);
  await expect.poll(async () => (await view()).state).toBe('done');
  return view();
}
const hashes = ({ artifacts }: DeliveryView) => artifacts.map(({ path, sha256 }) => `${path} ${sha256}`);

test('a backup of the whole data folder, made while a set is built, is all there again in a new one', async () => {
  const server = new Server();
  await server.start();
  const folder = scratch();
  const file = join(folder, 'backup.zip');
  try {
    const jobs = await json<JobSummary[]>(`${server.url}/api/jobs`);
    const [job] = jobs;
    if (!job) throw new Error('the demo has no job');
    const before = await built(server.url, job.id);
    const building = post(`${server.url}/api/jobs/${job.id}/deliveries`);
    const daily = readdirSync(join(server.data, 'backups'));
    const answer = await fetch(`${server.url}/api/backup`);
    writeFileSync(file, Buffer.from(await answer.arrayBuffer()));
    await building;
    // The copies of other days are what they were, and its own is gone; one that is broken off leaves none either.
    const stop = new AbortController();
    await fetch(`${server.url}/api/backup`, { signal: stop.signal });
    stop.abort();
    expect(readdirSync(join(server.data, 'backups'))).toEqual(daily);
    await expect.poll(() => readdirSync(join(server.data, 'uploads'))).toEqual([]);

    const again = new Server(['--from', file]);
    again.remove();
    await again.start();
    try {
      expect(again.output).toContain('Put the backup');
      expect((await json<JobSummary[]>(`${again.url}/api/jobs`)).map(({ title }) => title).sort()).toEqual(
        jobs.map(({ title }) => title).sort(),
      );
      const kept = await json<DeliveryView>(`${again.url}/api/deliveries/${before.id}`);
      expect(hashes(kept)).toEqual(hashes(before));
      expect(hashes(await built(again.url, job.id))).toEqual(hashes(before));
    } finally {
      await again.stop();
      again.remove();
    }
  } finally {
    await server.stop();
    server.remove();
  }
});

test.describe('what is no backup, or has no room, changes nothing', () => {
  test('a folder that holds something', async () => {
    const server = new Server(['--from', 'none.zip']);
    writeFileSync(join(server.data, 'mine.txt'), 'x');
    await expect(server.start()).rejects.toThrow(/holds something already; name a new one with --data/);
    expect(readdirSync(server.data)).toEqual(['mine.txt']);
    server.remove();
  });

  test('a file that is none', async () => {
    const folder = scratch();
    const file = join(folder, 'x.zip');
    writeFileSync(file, 'not a ZIP');
    const server = new Server(['--from', file]);
    await expect(server.start()).rejects.toThrow(/x\.zip is not a whole export/);
    expect(readdirSync(server.data)).toEqual([]);
    server.remove();
  });
});
