import { randomUUID } from 'node:crypto';
import { connect } from 'node:net';
import type { JobView, SheetView, SourceView } from '@tambur/server';
import { wavBytes } from './support/files.ts';
import { clip, putting } from './support/jobs.ts';
import { expect, test } from './support/server.ts';

/** Sends bytes as they are and gives what comes back, or nothing. */
const raw = (url: string, bytes: string): Promise<string> =>
  new Promise((resolve) => {
    const { hostname, port } = new URL(url);
    const socket = connect(Number(port), hostname);
    let answer = '';
    socket.on('data', (chunk) => {
      answer += chunk;
    });
    socket.on('error', () => resolve(answer));
    socket.on('close', () => resolve(answer));
    socket.setTimeout(1500, () => socket.destroy());
    socket.write(bytes);
  });

test('no malformed request ends the server', async ({ request, server }) => {
  const host = `Host: ${new URL(server.url).host}\r\n`;
  const chunked = `${host}Transfer-Encoding: chunked\r\n`;
  for (const path of ['/api/sources?name=x.wav', '/api/check?name=x.wav', '/api/jobs', '/api/targets']) {
    for (const type of ['', 'Content-Type: application/json\r\n']) {
      const head = `POST ${path} HTTP/1.1\r\n${type}${chunked}\r\n`;
      const bodies = [
        'ZZZ\r\nfoo\r\n',
        '5\r\nhello\r\nXX\r\n',
        '\0\0\r\n',
        '-1\r\n',
        'ffffffffffffffff\r\n',
        '5\r\nhe',
      ];
      await Promise.all(bodies.map((body) => raw(server.url, head + body)));
      await raw(server.url, `POST ${path} HTTP/1.1\r\n${type}${host}Content-Length: 100\r\n\r\nabc`);
    }
  }
  for (const start of [
    'GARBAGE\r\n\r\n',
    'GET \0 HTTP/1.1\r\n\r\n',
    `GET / HTTP/9.9\r\n${host}\r\n`,
    '\r\n'.repeat(50),
  ]) {
    await raw(server.url, start);
  }
  expect((await request.get('/api/sources')).status()).toBe(200);
});

test('every answer carries the headers that keep it to this page', async ({ request }) => {
  const answers = [
    await request.get('/'),
    await request.get('/api/nothing'),
    await request.post('/api/jobs', { data: {} }),
    await request.get('/', { headers: { host: 'example.org' } }),
  ];
  expect(answers.map((answer) => answer.status())).toEqual([200, 404, 400, 403]);
  for (const answer of answers) {
    expect(answer.headers()).toMatchObject({
      'x-content-type-options': 'nosniff',
      'cross-origin-resource-policy': 'same-origin',
      'content-security-policy': expect.stringContaining("default-src 'self'"),
    });
  }
});

test('requests of no use are answered in one sentence that is not endless', async ({ request }) => {
  const source: SourceView = await (
    await request.post('/api/sources?name=a.wav', { data: Buffer.from(wavBytes(0.7, 1, 16_000, 0.31)) })
  ).json();
  const job: JobView = await (
    await request.post('/api/jobs', { data: { title: 'A\0b\nc', sheet: 'desk-phone-ring-tone' } })
  ).json();
  const other: JobView = await (
    await request.post('/api/jobs', { data: { title: 'Other', sheet: 'desk-phone-ring-tone' } })
  ).json();
  const named = (name: string, id = randomUUID()) => ({ ...clip(source.id, name), id });
  const change = (target: JobView, change: unknown, revision: unknown = target.revision) =>
    request.post(`/api/jobs/${target.id}/changes`, { data: { revision, change } });
  const put = (target: JobView, clips: Parameters<typeof putting>[0]) => change(target, putting(clips));
  const foreign = randomUUID();
  expect((await put(other, [named('theirs', foreign)])).status()).toBe(200);
  const own = named('a');
  const [[place, entry]] = Object.entries(putting([own]));
  const long = 'x'.repeat(100_000);
  const json = { 'content-type': 'application/json' };
  const endless = JSON.stringify({ revision: 0, change: putting([own]) }).replace('"gapMs":0', '"gapMs":1e999');
  const deep = `{"revision":0,"change":{"${place}":${'['.repeat(100_000)}${']'.repeat(100_000)}}}`;
  const answers = [
    await change(job, { [`clips/${randomUUID()}`]: entry }),
    await put(job, [named('a', foreign)]),
    await change(job, { [place]: entry }, 1e300),
    await change(job, { [place]: { ...entry, rank: '../x' } }),
    await change(job, { [long]: 1, title: 'x' }),
    await change(job, { title: null }),
    await put(job, [named(long)]),
    await request.post(`/api/jobs/${job.id}/changes`, { data: endless, headers: json }),
    await request.post(`/api/jobs/${job.id}/changes`, { data: deep, headers: json }),
    await request.post('/api/targets', { data: `{"sheet":${'{"a":'.repeat(200)}1${'}'.repeat(200)}}`, headers: json }),
    await request.get(`/api/jobs/${job.id}/changes?after=-1`),
    await request.post('/api/jobs', { data: { title: long, sheet: long } }),
    await request.post('/api/jobs', { data: { title: 'a', sheet: long } }),
    await request.post('/api/jobs', { data: `{"title":"${'x'.repeat(5_000_000)}"}`, headers: json }),
    await request.post(`/api/sources?name=${'n'.repeat(10_000)}`, { data: Buffer.from('nothing of use here') }),
    await request.post('/api/jobs', { data: '{"title":', headers: json }),
  ];
  for (const answer of answers) {
    const { error } = await answer.json();
    expect(answer.status(), error.message).toBeGreaterThanOrEqual(400);
    expect(answer.status(), error.message).toBeLessThan(500);
    expect(error.message.length).toBeLessThan(700);
  }
  // Names are one line, whatever came.
  expect((await (await request.get('/api/jobs')).json()).map(({ title }: { title: string }) => title)).toContain(
    'A b c',
  );
  await put(job, [named('Bell\nwinch.raw\tmore')]);
  const view: JobView = await (await request.get(`/api/jobs/${job.id}`)).json();
  // Nothing of what was refused has been stored.
  expect([view.revision, view.job.clips.map(({ name }) => name)]).toEqual([1, ['Bell winch.raw more']]);
});

test('at once: appends to one job, and sheets of one name', async ({ request }) => {
  const source: SourceView = await (
    await request.post('/api/sources?name=b.wav', { data: Buffer.from(wavBytes(0.7, 1, 16_000, 0.32)) })
  ).json();
  const job: JobView = await (
    await request.post('/api/jobs', { data: { title: 'Many', sheet: 'desk-phone-ring-tone' } })
  ).json();
  const append = (i: number) =>
    request.post(`/api/jobs/${job.id}/clips`, {
      data: { clips: [clip(source.id, `Clip ${i}`)] },
    });
  const appended = await Promise.all(Array.from({ length: 20 }, (_, i) => append(i)));
  expect(appended.map((answer) => answer.status())).toEqual(new Array(20).fill(201));
  expect((await (await request.get(`/api/jobs/${job.id}`)).json()).job.clips).toHaveLength(20);

  const {
    isOwn: _,
    usedBy: __,
    words: ___,
    ...phone
  } = ((await (await request.get('/api/targets')).json()) as SheetView[])[0];
  const sheets = await Promise.all(
    Array.from({ length: 8 }, () => request.post('/api/targets', { data: { sheet: { ...phone, id: 'equal' } } })),
  );
  expect(sheets.map((answer) => answer.status())).toEqual(new Array(8).fill(201));
  const ids = await Promise.all(sheets.map(async (answer) => (await answer.json()).id));
  expect(new Set(ids).size).toBe(8);
  for (const id of ids) await request.delete(`/api/targets/${id}`);
});
