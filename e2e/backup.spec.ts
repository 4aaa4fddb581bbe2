import { execFileSync, spawnSync } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { mkdirSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
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
    const zip = Buffer.from(await answer.arrayBuffer());
    expect(answer.status, zip.subarray(0, 300).toString()).toBe(200);
    writeFileSync(file, zip);
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
    await expect(server.start()).rejects.toThrow(/is not empty; name a new one with --data/);
    expect(readdirSync(server.data)).toEqual(['mine.txt']);
    server.remove();
  });

  test('a file that is none', async () => {
    const folder = scratch();
    const file = join(folder, 'x.zip');
    writeFileSync(file, 'not a ZIP');
    const server = new Server(['--from', file]);
    await expect(server.start()).rejects.toThrow(/x\.zip is not a complete export/);
    expect(readdirSync(server.data)).toEqual([]);
    server.remove();
  });
});

/** Copies a ZIP with one change, made by Python: `entries` is a dictionary of bytes by name. */
function bent(zip: string, change: string): string {
  const out = `${zip}.bent.zip`;
  const program = `import sys, zipfile
source = zipfile.ZipFile(sys.argv[1])
entries = {name: source.read(name) for name in source.namelist()}
first = sorted(name for name in entries if name.endswith('/original'))[0]
${change}
with zipfile.ZipFile(sys.argv[2], 'w') as z:
  for name, data in entries.items():
    z.writestr(name, data)`;
  execFileSync('python3', ['-c', program, zip, out]);
  return out;
}

test.describe('a damaged backup', () => {
  let folder: string;
  let backup: string;
  test.beforeAll(async () => {
    folder = scratch();
    backup = join(folder, 'backup.zip');
    const server = new Server();
    await server.start();
    try {
      writeFileSync(backup, Buffer.from(await (await fetch(`${server.url}/api/backup`)).arrayBuffer()));
      // Whoever asks for the head alone leaves nothing behind.
      expect((await fetch(`${server.url}/api/backup`, { method: 'HEAD' })).status).toBe(200);
      expect(readdirSync(join(server.data, 'uploads'))).toEqual([]);
    } finally {
      await server.stop();
      server.remove();
    }
  });

  const flip = 'data = bytearray(entries[first]); data[len(data) // 2] ^= 1; entries[first] = bytes(data)';
  for (const [what, change, words] of [
    ['a bit of an original, its checksum made to fit', flip, /original is damaged/],
    ['an original that is missing', 'del entries[first]', /original is missing/],
    ['an entry too many', "entries['sources/x/original'] = b'x'", /sources\/x\/original does not belong to a backup/],
    ['no database', "del entries['tambur.sqlite']", /it has no database/],
    [
      'a file that stands where a folder should',
      "entries['sources'] = b'x'",
      /is not a backup of Tambur|conflicts with another entry/,
    ],
    ['the same, of an earlier version without hashes', `${flip}; del entries['hashes.json']`, /is damaged/],
    ['an original gone, without hashes', "del entries[first]; del entries['hashes.json']", /is gone/],
  ] as const) {
    test(`${what}: refused, and nothing is put in place`, async () => {
      const server = new Server(['--from', bent(backup, change)]);
      await expect(server.start()).rejects.toThrow(words);
      expect(readdirSync(server.data)).toEqual([]);
      server.remove();
    });
  }

  test('a data folder is compared with its hashes, all of it, on request', async () => {
    const server = new Server(['--from', backup]);
    await server.start();
    await server.stop();
    const verify = () => spawnSync('./start', ['--data', server.data, '--verify'], { encoding: 'utf8' });
    expect(verify()).toMatchObject({ status: 0, stdout: expect.stringMatching(/All \d+ files that have a hash/) });
    const [key = ''] = readdirSync(join(server.data, 'sources'));
    const original = join(server.data, 'sources', key, 'original');
    const bytes = readFileSync(original);
    bytes[100] ^= 1;
    writeFileSync(original, bytes);
    expect(verify()).toMatchObject({
      status: 1,
      stdout: expect.stringMatching(/1 of \d+ files are damaged: .* is damaged/),
    });
    server.remove();
  });
});

test('a data folder that cannot be one is said in a sentence, and ends with 2', () => {
  const folder = scratch();
  writeFileSync(join(folder, 'a-file'), 'x');
  mkdirSync(join(folder, 'odd', 'tambur.sqlite'), { recursive: true });
  writeFileSync(join(folder, 'odd', 'tambur-data.json'), JSON.stringify({ format: 1, id: randomUUID() }));
  const cases = [join(folder, 'a-file'), join(folder, 'n'.repeat(300)), join(folder, 'odd'), '/proc/x', '/dev/null/x'];
  for (const data of cases) {
    const { status, stderr, stdout } = spawnSync('./start', ['--port', '0', '--data', data], {
      encoding: 'utf8',
      timeout: 60_000,
    });
    expect(status, `${data}: ${stdout}${stderr}`).toBe(2);
    expect(stderr).not.toMatch(/\n\s+at /);
    expect(stderr.trim().split('\n').at(-1)).toMatch(/^The .*[.]$/);
  }
});

test('a database that holds something that is no JSON is said in a sentence', async () => {
  const server = new Server(['--empty']);
  await server.start();
  await server.stop();
  const program = `import sqlite3, sys
database = sqlite3.connect(sys.argv[1])
columns = 'id, name, sha256, key, track, waveform, facts, createdAt'
database.execute(f"insert into sources({columns}) values('a', 'a.wav', 'x', 'x', 0, '', '{{', '2026-01-01 00:00:00.000 +00:00')")
database.commit()`;
  execFileSync('python3', ['-c', program, join(server.data, 'tambur.sqlite')]);
  const { status, stderr } = spawnSync('./start', ['--port', '0', '--data', server.data], { encoding: 'utf8' });
  expect([status, stderr]).toEqual([2, expect.stringMatching(/an entry is no JSON.*--restore.*--recover[^\n]*[.]\n$/)]);
  server.remove();
});
