import { readdirSync, writeFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { setTimeout as wait } from 'node:timers/promises';
import { expect, test } from '@playwright/test';
import type { DeliveryView, JobView, SourceView } from '@tambur/server';
import { scratch, wavBytes } from './support/files.ts';
import { clip } from './support/jobs.ts';
import { Server } from './support/server.ts';

/** A disk that is full, or read-only, at the worst moments; and ends without warning in the middle of a large build. */

/** Builds that are killed; `npm run torture` does twenty. */
const ROUNDS = Math.min(20, Number(process.env.TAMBUR_ROUNDS ?? 3));

const json = async <T>(url: string, init?: RequestInit): Promise<T> => (await fetch(url, init)).json() as Promise<T>;
const post = (url: string, body: unknown) =>
  fetch(url, { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) });
const messageOf = async (answer: Response) => {
  const { error } = (await answer.json()) as { error: { message: string } };
  return error.message;
};

for (const [code, words] of [
  ['ENOSPC', /the disk is full; make room on it/],
  ['EROFS', /the disk is read-only; make it writable/],
] as const) {
  test(`${code} while importing, building and saving: one sentence each, nothing lost, nothing half`, async () => {
    const trigger = join(scratch(), 'disk');
    const disk = (state: string) => writeFileSync(trigger, state);
    disk('');
    const preload = `--import ${resolve('e2e/support/full-disk.mjs')}`;
    const server = new Server(['--empty'], { NODE_OPTIONS: preload, TAMBUR_TEST_DISK: trigger });
    try {
      await server.start();
      const { url, data } = server;
      const send = (name: string, seconds: number) =>
        fetch(`${url}/api/sources?name=${name}`, {
          method: 'POST',
          body: new Uint8Array(wavBytes(seconds)),
          // What is refused before it has been sent ends its connection, which nobody should use again.
          headers: { connection: 'close' },
        });
      const stored = (await (await send('stored.wav', 1)).json()) as SourceView;
      const job = (await (
        await post(`${url}/api/jobs`, { title: 'Card', sheet: 'desk-phone-ring-tone' })
      ).json()) as JobView;
      await post(`${url}/api/jobs/${job.id}/clips`, { clips: [clip(stored.id, 'Bell'), clip(stored.id, 'Horn')] });
      const deliver = async () => {
        const answer = await post(`${url}/api/jobs/${job.id}/deliveries`, {});
        if (!answer.ok) return messageOf(answer);
        const { id } = (await answer.json()) as DeliveryView;
        const view = () => json<DeliveryView>(`${url}/api/deliveries/${id}`);
        await expect.poll(async () => (await view()).state).not.toBe('building');
        const { state, error } = await view();
        return state === 'done' ? 'done' : (error ?? '');
      };
      expect(await deliver()).toBe('done');
      const before = readdirSync(join(data, 'deliveries'));

      const { revision, job: working } = await json<JobView>(`${url}/api/jobs/${job.id}`);
      const [first] = working.clips;
      if (!first) throw new Error('no clip');
      const change = { [`clips/${first.id}`]: { ...first, name: 'Gong' } };
      disk(code);
      expect(await messageOf(await send('more.wav', 2))).toMatch(words);
      expect(await messageOf(await post(`${url}/api/jobs/${job.id}/changes`, { revision, change }))).toMatch(words);
      expect(await deliver()).toMatch(words);
      // It could be recorded, and its files could not be written.
      disk(`${code} files`);
      expect(await deliver()).toMatch(words);
      expect(readdirSync(join(data, 'uploads'))).toEqual([]);
      expect(readdirSync(join(data, 'deliveries'))).toEqual(before);
      expect((await json<SourceView[]>(`${url}/api/sources`)).map(({ name }) => name)).toEqual(['stored.wav']);
      expect((await json<JobView>(`${url}/api/jobs/${job.id}`)).job.clips.map(({ name }) => name)).toEqual([
        'Bell',
        'Horn',
      ]);

      // Room again: everything goes on.
      disk('');
      expect((await post(`${url}/api/jobs/${job.id}/changes`, { revision, change })).ok).toBe(true);
      expect((await send('more.wav', 2)).ok).toBe(true);
      expect(await deliver()).toBe('done');
    } finally {
      await server.stop();
      server.remove();
    }
  });
}

test('killed at random moments of a build of 200 clips: the next start goes on with it, and its files are whole', async () => {
  test.setTimeout(120_000 + ROUNDS * 30_000);
  const server = new Server(['--empty']);
  try {
    await server.start();
    const source = await json<SourceView>(`${server.url}/api/sources?name=long.wav`, {
      method: 'POST',
      body: new Uint8Array(wavBytes(60, 2)),
    });
    const job = (await (
      await post(`${server.url}/api/jobs`, { title: 'Many', sheet: 'desk-phone-ring-tone' })
    ).json()) as JobView;
    const clips = Array.from({ length: 200 }, (_, i) =>
      clip(source.id, `Sound ${i}`, { start: 9000 * i, end: 9000 * i + 400_000 }),
    );
    await post(`${server.url}/api/jobs/${job.id}/clips`, { clips });
    const { id } = (await (await post(`${server.url}/api/jobs/${job.id}/deliveries`, {})).json()) as DeliveryView;
    let chance = 4711;
    for (let round = 0; round < ROUNDS; round++) {
      chance = (Math.imul(chance, 1_103_515_245) + 12_345) >>> 0;
      await wait(50 + ((chance >>> 16) % 2500));
      await server.stop('SIGKILL');
      // What is there under its own name is complete, whatever moment it was.
      const there = readdirSync(join(server.data, 'deliveries'));
      expect(there.length).toBeLessThanOrEqual(1);
      if (there.includes(id)) expect(readdirSync(join(server.data, 'deliveries', id))).toHaveLength(201);
      await server.start();
      expect((await json<JobView>(`${server.url}/api/jobs/${job.id}`)).job.clips).toHaveLength(200);
    }
    const view = () => json<DeliveryView>(`${server.url}/api/deliveries/${id}`);
    await expect.poll(async () => (await view()).state, { timeout: 120_000 }).toBe('done');
    expect((await view()).artifacts).toHaveLength(201);
    const again = await (await post(`${server.url}/api/deliveries/${id}/again`, {})).json();
    expect(again).toMatchObject({ total: 201, different: [], failures: [] });
  } finally {
    await server.stop();
    server.remove();
  }
});
