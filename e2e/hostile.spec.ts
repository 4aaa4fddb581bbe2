import { execFileSync } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { readFileSync, writeFileSync } from 'node:fs';
import { connect } from 'node:net';
import { join } from 'node:path';
import { targetOf } from '@tambur/core';
import type { JobView, SheetView, SourceView } from '@tambur/server';
import { scratch, sha256, wavBytes } from './support/files.ts';
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

/** A ZIP of texts, packed by Python. */
function zipOf(texts: Record<string, string>): Buffer {
  const folder = scratch();
  for (const [i, text] of Object.values(texts).entries()) writeFileSync(join(folder, String(i)), text);
  const program = `import sys, zipfile
with zipfile.ZipFile(sys.argv[1] + "/x.zip", "w", zipfile.ZIP_DEFLATED) as z:
  for i, name in enumerate(sys.argv[2:]):
    z.write(f"{sys.argv[1]}/{i}", name)`;
  execFileSync('python3', ['-c', program, folder, ...Object.keys(texts)]);
  return readFileSync(join(folder, 'x.zip'));
}

test('hostile documents are refused in one sentence, and others are answered while they are read', async ({
  request,
}) => {
  const sheet = targetOf('desk-phone-ring-tone');
  const many = (count: number, text: string) => new Array(count).fill(text).join(',');
  const manifest = (sources: string) => `{"format":2,"kind":"job","sources":[${sources}],"hashes":{}}`;
  const jobText = (clips: string) =>
    `{"format":2,"title":"x","sheet":"${sheet.id}","variant":null,"values":{},"wishes":{},"places":{},"ownLists":{},"clips":[${clips}]}`;
  const source = `{"id":"x","sha256":"${sha256(Buffer.from(''))}","name":"x","reading":null,"track":0}`;
  const exported = (clips: string, sources: string) => ({
    path: '/api/jobs/import?name=x.zip',
    type: 'application/octet-stream',
    data: zipOf({
      'manifest.json': manifest(sources),
      'job.json': jobText(clips),
      [`sheets/${sheet.id}.json`]: JSON.stringify(sheet),
    }),
  });
  const body = (path: string, data: unknown) => ({
    path,
    type: 'application/json',
    data: Buffer.from(typeof data === 'string' ? data : JSON.stringify(data)),
  });
  const withSheet = (more: object) => body('/api/targets', { sheet: { ...sheet, ...more } });
  const job: JobView = await (await request.post('/api/jobs', { data: { title: 'Places', sheet: sheet.id } })).json();
  const places = Array.from({ length: 50_000 }, (_, i) => [`places/${i}`, randomUUID()]);
  const variant = { id: 'v', name: 'V', replace: {}, without: [] };
  const attacks: Record<string, { path: string; type: string; data: Buffer }> = {
    'a job of 16 million clips': exported(many(16_000_000, '{}'), ''),
    'a source that is named 100 000 times': exported('', many(100_000, source)),
    'a change of 50 000 places': body(`/api/jobs/${job.id}/changes`, {
      revision: 0,
      change: Object.fromEntries(places),
    }),
    'a sheet of 20 000 variants': withSheet({
      variants: Array.from({ length: 20_000 }, (_, i) => ({ ...variant, id: `v${i}` })),
    }),
    'a sheet of 70 000 requirements': withSheet({
      requirements: Array.from({ length: 70_000 }, (_, i) => ({ key: `k${i}`, kind: 'name', most: 9 })),
    }),
    'a sheet of a thousand million channels': withSheet({
      requirements: [{ key: 'channels', kind: 'channels', anyOf: [1_000_000_000] }],
    }),
    'two million empty lists': body('/api/jobs', `[${many(1_300_000, '[]')}]`),
  };
  for (const [what, { path, type, data }] of Object.entries(attacks)) {
    let isOver = false;
    const attack = request.post(path, { data, headers: { 'content-type': type }, timeout: 60_000 });
    const over = attack.finally(() => {
      isOver = true;
    });
    expect((await request.get('/api/jobs')).status(), what).toBe(200);
    // What is counted and refused at once may be over by then; what is read takes a thread, and nobody waits for that.
    if (type !== 'application/json') expect(isOver, `${what}: another request had to wait`).toBe(false);
    const answer = await over;
    const { error } = await answer.json();
    expect(answer.status(), `${what}: ${error.message}`).toBeGreaterThanOrEqual(400);
    expect(answer.status(), `${what}: ${error.message}`).toBeLessThan(500);
    expect(error.message.length).toBeLessThan(700);
  }
  expect((await (await request.get(`/api/jobs/${job.id}`)).json()).revision).toBe(0);
});
