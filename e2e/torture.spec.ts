import { createHash, randomUUID } from 'node:crypto';
import { readdirSync } from 'node:fs';
import { join } from 'node:path';
import { setTimeout as wait } from 'node:timers/promises';
import { expect, test } from '@playwright/test';
import type { JobView, SourceView } from '@tambur/server';
import { wavBytes } from './support/files.ts';
import { clip, putting } from './support/jobs.ts';
import { Server } from './support/server.ts';

/** Rounds of work, sudden end and new start; `npm run torture` does many. */
const ROUNDS = Number(process.env.TAMBUR_ROUNDS ?? 4);

const sha256 = (bytes: Uint8Array) => createHash('sha256').update(bytes).digest('hex');

test('whatever is under way when the process is killed: what was acknowledged is there, whole, and nothing else shows', async () => {
  test.setTimeout(60_000 + ROUNDS * 30_000);
  const server = new Server(['--empty']);
  /** Acknowledged sources by their SHA-256, and the last acknowledged clips of the job. */
  const sources = new Map<string, string>();
  let job: Pick<JobView, 'id' | 'revision'> | null = null;
  /** Ids of the clips that the job has. */
  let there: readonly string[] = [];
  let saved: readonly string[] = [];
  /** What was being saved when the end came: it may be there, or not. */
  let saving: readonly string[] | null = null;
  try {
    for (let round = 0; round < ROUNDS; round++) {
      await server.start();
      const url = (path: string) => server.url + path;
      const shelf: SourceView[] = await (await fetch(url('/api/sources'))).json();
      expect(new Set(shelf.map((source) => source.sha256)).size).toBe(shelf.length);
      for (const [sum, id] of sources) {
        expect(shelf.map((source) => source.id)).toContain(id);
        const bytes = new Uint8Array(await (await fetch(url(`/api/sources/${id}/file`))).arrayBuffer());
        expect(sha256(bytes)).toBe(sum);
      }
      for (const folder of ['uploads', 'sources']) {
        expect(readdirSync(join(server.data, folder)).filter((name) => name.endsWith('.part'))).toEqual([]);
      }
      expect(readdirSync(join(server.data, 'sources'))).toHaveLength(shelf.length);
      if (job) {
        const view: JobView = await (await fetch(url(`/api/jobs/${job.id}`))).json();
        const names = view.job.clips.map(({ name }) => name);
        expect([saved, saving ?? saved]).toContainEqual(names);
        [saved, saving] = [names, null];
        job = view;
        there = view.job.clips.map((entry) => entry.id);
      }

      const post = (path: string, body: unknown) =>
        fetch(url(path), {
          method: 'POST',
          headers: { 'content-type': 'application/json' },
          body: JSON.stringify(body),
        });
      let isEnding = false;
      const work = async () => {
        for (let i = 0; !isEnding; i++) {
          const bytes = new Uint8Array(wavBytes(1 + (i % 3), 2, 44_100, 0.1 + 0.01 * round + 0.001 * i));
          const answer = await fetch(url(`/api/sources?name=round-${round}-${i}.wav`), { method: 'POST', body: bytes });
          if (!answer.ok) continue;
          const { id }: SourceView = await answer.json();
          sources.set(sha256(bytes), id);
          job ??= (await (
            await post('/api/jobs', { title: 'Job', sheet: 'microcontroller-8-bit-dac' })
          ).json()) as JobView;
          const names = [...saved, `Clip ${round}-${i}`].slice(-20);
          saving = names;
          const clips = names.map((name) => ({ ...clip(id, name), id: randomUUID() }));
          const gone = Object.fromEntries(there.map((old) => [`clips/${old}`, null]));
          const change = { ...gone, ...putting(clips) };
          const put = await post(`/api/jobs/${job.id}/changes`, { revision: job.revision, change });
          if (!put.ok) throw new Error(await put.text());
          job = { id: job.id, revision: (await put.json()).revision };
          there = clips.map((entry) => entry.id);
          [saved, saving] = [names, null];
          await post(`/api/jobs/${job.id}/deliveries`, {});
        }
      };
      const working = work().catch(() => undefined);
      await wait(200 + ((round * 619) % 1500));
      // However slow the machine is, there is something to be checked from the second round on.
      if (round === 0) await expect.poll(() => sources.size).toBeGreaterThan(0);
      isEnding = true;
      await server.stop('SIGKILL');
      await working;
    }
    expect(sources.size).toBeGreaterThan(0);
  } finally {
    await server.stop();
    server.remove();
  }
});
