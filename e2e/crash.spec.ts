import { spawnSync } from 'node:child_process';
import { readdirSync } from 'node:fs';
import { request as plainRequest } from 'node:http';
import { join } from 'node:path';
import { setTimeout as wait } from 'node:timers/promises';
import { expect, test } from '@playwright/test';
import type { DeliveryView, SourceView } from '@tambur/server';
import { wavBytes } from './support/files.ts';
import { clip } from './support/jobs.ts';
import { Server } from './support/server.ts';

const json = async (url: string, init?: RequestInit) => (await fetch(url, init)).json();
const post = (url: string, body: unknown, method = 'POST') =>
  json(url, { method, headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) });

test('a SIGKILL during an import and during a build: what was stored stays, nothing half shows, the next start tidies', async () => {
  const server = new Server(['--empty']);
  try {
    await server.start();
    const bytes = wavBytes(60, 2, 48_000);
    const stored: SourceView = await json(`${server.url}/api/sources?name=stored.wav`, {
      method: 'POST',
      body: new Uint8Array(bytes),
    });

    // An upload that never ends.
    const half = plainRequest({
      port: new URL(server.url).port,
      host: '127.0.0.1',
      path: '/api/sources?name=half.wav',
      method: 'POST',
    });
    half.on('error', () => undefined);
    half.write(bytes.subarray(0, 1_000_000));
    await expect.poll(() => readdirSync(join(server.data, 'uploads'))).toHaveLength(1);

    // A build that takes a while.
    const job = await post(`${server.url}/api/jobs`, { title: 'Long job', sheet: 'microcontroller-8-bit-dac' });
    const clips = Array.from({ length: 12 }, (_, i) => clip(stored.id, `Clip ${i}`));
    await post(`${server.url}/api/jobs/${job.id}/clips`, { clips });
    const started: DeliveryView = await post(`${server.url}/api/jobs/${job.id}/deliveries`, {});
    await expect.poll(() => readdirSync(join(server.data, 'deliveries'))).toEqual([`${started.id}.part`]);
    await wait(300);
    await server.stop('SIGKILL');
    expect(readdirSync(join(server.data, 'deliveries'))).toEqual([`${started.id}.part`]);

    await server.start();
    expect(server.output).toContain('Removed 1 unfinished import.');
    expect(server.output).toContain('Removed the files of 1 unfinished build.');
    expect(server.output).toContain('Started the build of Long job again.');
    expect(readdirSync(join(server.data, 'uploads'))).toEqual([]);
    expect((await json(`${server.url}/api/sources`)).map(({ name }: SourceView) => name)).toEqual(['stored.wav']);
    expect((await json(`${server.url}/api/jobs/${job.id}`)).job.clips).toHaveLength(12);

    const state = async (): Promise<DeliveryView> => json(`${server.url}/api/deliveries/${started.id}`);
    await expect.poll(async () => (await state()).state).toBe('done');
    expect((await state()).artifacts).toHaveLength(12);
    expect(readdirSync(join(server.data, 'deliveries'))).toEqual([started.id]);

    // An import that was decoded but not recorded.
    await server.stop('SIGKILL');
    await server.start();
    expect(server.output).not.toContain('Removed');
  } finally {
    await server.stop();
    server.remove();
  }
});

test('an end by SIGTERM during a build is no failure: the next start goes on with it', async () => {
  const server = new Server(['--empty']);
  try {
    await server.start();
    const stored: SourceView = await json(`${server.url}/api/sources?name=a.wav`, {
      method: 'POST',
      body: new Uint8Array(wavBytes(30)),
    });
    const job = await post(`${server.url}/api/jobs`, { title: 'Job', sheet: 'microcontroller-8-bit-dac' });
    const clips = Array.from({ length: 12 }, (_, i) => clip(stored.id, `Clip ${i}`));
    await post(`${server.url}/api/jobs/${job.id}/clips`, { clips });
    const { id }: DeliveryView = await post(`${server.url}/api/jobs/${job.id}/deliveries`, {});
    await server.stop('SIGTERM');
    await server.start();
    expect(server.output).toContain('Started the build of Job again.');
    await expect.poll(async () => (await json(`${server.url}/api/deliveries/${id}`)).state).toBe('done');
  } finally {
    await server.stop();
    server.remove();
  }
});

test('a second server keeps its hands off a data folder that is in use', async () => {
  const first = new Server(['--empty']);
  try {
    await first.start();
    const second = spawnSync('./start', ['--port', '0', '--data', first.data], { encoding: 'utf8' });
    expect(second.status).toBe(2);
    expect(second.stderr).toMatch(
      /is in use by another Tambur \(process \d+\); end that one, or choose another with --data/,
    );
    expect(await json(`${first.url}/api/sources`)).toEqual([]);
  } finally {
    await first.stop();
    first.remove();
  }
});

test.describe('start refuses in one sentence', () => {
  for (const [args, words] of [
    [['--port', 'x'], /^--port x is not a port; give a number/],
    [['--colour', 'red'], /^Unknown option '--colour'.*See \.\/start --help\.$/s],
    [
      ['--data', 'package.json/data'],
      /^The data folder \S+package\.json\/data cannot be used: a file stands where a folder should; choose another folder with --data\.$/,
    ],
  ] as const) {
    test(args.join(' '), () => {
      const { status, stdout, stderr } = spawnSync('./start', args, { encoding: 'utf8', timeout: 120_000 });
      expect([status, stdout]).toEqual([2, '']);
      expect(stderr.trim()).toMatch(words);
    });
  }
});
