import { randomUUID } from 'node:crypto';
import { existsSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { request as plainRequest } from 'node:http';
import { join } from 'node:path';
import type { APIRequestContext } from '@playwright/test';
import { openSource } from '@tambur/codecs';
import { targetOf } from '@tambur/core';
import type { DeliveryView, JobView, SheetView, ShelfView, SourceView, WholeView } from '@tambur/server';
import { badFiles, scratch, sha256, soundFiles, wavBytes, zipEntries } from './support/files.ts';
import { clip, putting } from './support/jobs.ts';
import { expect, test } from './support/server.ts';

const upload = (request: APIRequestContext, name: string, bytes: Buffer) =>
  request.post(`/api/sources?name=${encodeURIComponent(name)}`, {
    data: bytes,
    headers: { 'content-type': 'application/octet-stream' },
  });

/** Puts clips into a job, as one change. */
const put = (request: APIRequestContext, jobId: string, revision: number, clips: Parameters<typeof putting>[0]) =>
  request.post(`/api/jobs/${jobId}/changes`, { data: { revision, change: putting(clips) } });

async function newJob(request: APIRequestContext, sheet = 'desk-phone-ring-tone'): Promise<JobView> {
  const answer = await request.post('/api/jobs', { data: { title: 'Test job', sheet } });
  expect(answer.status()).toBe(201);
  return answer.json();
}

async function built(request: APIRequestContext, id: string): Promise<DeliveryView> {
  await expect.poll(async () => (await (await request.get(`/api/deliveries/${id}`)).json()).state).not.toBe('building');
  return (await request.get(`/api/deliveries/${id}`)).json();
}

const codeOf = async (answer: { json(): Promise<unknown> }) =>
  ((await answer.json()) as { error: { code: string } }).error.code;

test('a source: facts, samples, peaks, its own bytes again; the same bytes twice are one source', async ({
  request,
}) => {
  const bytes = wavBytes(1.5);
  const answer = await upload(request, 'dir/../bell one.wav', bytes);
  expect(answer.status()).toBe(201);
  const source: SourceView = await answer.json();
  expect(source).toMatchObject({ name: 'bell one.wav', sha256: sha256(bytes), facts: { frames: 66_150, channels: 2 } });

  const again: SourceView = await (await upload(request, 'other name.wav', bytes)).json();
  expect(again.id).toBe(source.id);

  expect(sha256(await (await request.get(`/api/sources/${source.id}/file`)).body())).toBe(source.sha256);
  const samples = await (await request.get(`/api/sources/${source.id}/samples?start=100&count=2`)).body();
  const floats = new Float32Array(samples.buffer.slice(samples.byteOffset, samples.byteOffset + samples.length));
  // Frame by frame, as in the file after its 44-byte header.
  expect([...floats]).toEqual([0, 1, 2, 3].map((i) => bytes.readInt16LE(44 + 400 + 2 * i) / 32_768));
  const peaks = await (await request.get(`/api/sources/${source.id}/peaks?step=4096`)).body();
  expect(peaks).toHaveLength(Math.ceil(66_150 / 4096) * 2 * 2 * 4);

  expect((await request.get(`/api/sources/${source.id}/samples?start=66149&count=2`)).status()).toBe(400);
  expect((await request.get(`/api/sources/${source.id}/peaks?step=7`)).status()).toBe(400);
});

test('a file that is gone from the data folder is said before anything is sent', async ({ request, server }) => {
  const bytes = wavBytes(0.9, 1, 8000, 0.4);
  const source: SourceView = await (await upload(request, 'gone soon.wav', bytes)).json();
  const job = await newJob(request);
  await put(request, job.id, job.revision, [clip(source.id, 'Gone')]);
  const { id } = await (await request.post(`/api/jobs/${job.id}/deliveries`)).json();
  const [made] = (await built(request, id)).artifacts;
  rmSync(join(server.data, 'deliveries', id, made?.path ?? ''));
  rmSync(join(server.data, 'sources', source.sha256, 'original'));
  for (const path of [
    `/api/deliveries/${id}/files/${made?.path}`,
    `/api/deliveries/${id}/zip`,
    `/api/sources/${source.id}/file`,
  ]) {
    const answer = await request.get(path);
    expect([path, answer.status(), await codeOf(answer)]).toEqual([path, 410, 'gone']);
  }
  expect((await request.get(`/api/jobs/${job.id}/export`)).status()).toBe(422);
});

test('a whole that the page has no room for: the file that is delivered, its sound and its strength in ranges', async ({
  request,
}) => {
  const bytes = wavBytes(3);
  const source: SourceView = await (await upload(request, 'long.wav', bytes)).json();
  const job = await newJob(request, 'portable-player');
  const entry = clip(source.id, 'Long');
  await put(request, job.id, job.revision, [entry]);
  // Its device plays what it reads, through no loudspeaker.
  const { speaker: _, ...player } = targetOf('portable-player').player;
  const target = { ...targetOf('portable-player'), player };
  const asked = { progressId: randomUUID(), source: source.id, settings: { name: 'Long' }, target, stem: 'long' };
  const answer = await request.post('/api/wholes', { data: asked });
  expect(answer.status()).toBe(201);
  const whole: WholeView = await answer.json();
  const { id } = await (await request.post(`/api/jobs/${job.id}/deliveries`)).json();
  const [delivered] = (await built(request, id)).artifacts;
  expect(whole.sha256).toBe(delivered?.sha256);
  expect(whole.findings).toEqual(delivered?.parts[0]?.findings);
  const file = await (await request.get(`/api/deliveries/${id}/files/${delivered?.path}`)).body();
  expect(whole.head).toEqual([...file.subarray(0, 640)]);
  const { pcm } = await openSource(file);
  const numbers = async (path: string) => {
    const body = await (await request.get(`/api/wholes/${whole.id}/${path}`)).body();
    return new Float32Array(body.buffer.slice(body.byteOffset, body.byteOffset + body.length));
  };
  const read = await numbers('samples?start=44100&count=1000');
  expect([...read]).toEqual(Array.from({ length: 2000 }, (_, i) => pcm.channels[i % 2]?.[44_100 + Math.floor(i / 2)]));
  const first = [...(pcm.channels[0]?.subarray(0, 256) ?? [])];
  const [lowest = 0, highest = 0] = await numbers('peaks?step=256');
  expect([lowest, highest]).toEqual([Math.min(...first), Math.max(...first)]);
  const [power = 0] = await numbers('powers?step=256');
  expect(power).toBeCloseTo(first.reduce((sum, value) => sum + value * value, 0) / 256, 6);

  const device = await (await request.post(`/api/wholes/${whole.id}/device`)).json();
  expect(device).toEqual({ sampleRate: 44_100, channels: 2, frames: whole.facts.frames });
  const played = await (await request.get(`/api/wholes/device/${whole.id}/samples?start=44100&count=1000`)).body();
  expect(new Float32Array(played.buffer.slice(played.byteOffset, played.byteOffset + played.length))).toEqual(read);
  expect((await request.post('/api/wholes/nobody/device')).status()).toBe(404);

  for (const [bad, status] of [
    [{ stem: '../x' }, 400],
    [{ settings: { name: 'x', rate: 'fast' } }, 400],
    [{ target: { ...target, requirements: 'none' } }, 400],
    [{ source: 'nobody' }, 404],
  ] as const) {
    expect((await request.post('/api/wholes', { data: { ...asked, ...bad } })).status()).toBe(status);
  }
  expect((await request.get('/api/wholes/nobody/peaks?step=256')).status()).toBe(404);
});

test('a whole that nobody waits for any more is not made', async ({ request, server }) => {
  const source: SourceView = await (await upload(request, 'minutes.wav', wavBytes(120))).json();
  const target = targetOf('portable-player');
  const asked = { progressId: randomUUID(), source: source.id, settings: { name: 'Long' }, target, stem: 'long' };
  const stop = new AbortController();
  const answer = fetch(`${server.url}/api/wholes`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify(asked),
    signal: stop.signal,
  });
  const ended = expect(answer).rejects.toThrow();
  const unfinished = () => readdirSync(join(server.data, 'wholes')).filter((name) => name.endsWith('.part'));
  await expect.poll(() => unfinished().length).toBe(1);
  const before = readdirSync(join(server.data, 'wholes')).length;
  stop.abort();
  await ended;
  await expect.poll(() => readdirSync(join(server.data, 'wholes')).length).toBe(before - 1);
  expect(unfinished()).toEqual([]);
});

test('a large compressed file, which two threads read, is what one thread finds in it', async ({ request }) => {
  const part = await soundFiles.mp3(20);
  // Cut off in its last frame.
  const bytes = Buffer.concat(Array<Buffer>(Math.ceil(4_500_000 / part.length)).fill(part)).subarray(0, -100);
  const { facts, pcm } = await openSource(bytes);
  const source: SourceView = await (await upload(request, 'long announcement.mp3', bytes)).json();
  expect(source.facts).toEqual(facts);
  const start = facts.frames - 1000;
  const samples = await (await request.get(`/api/sources/${source.id}/samples?start=${start}&count=1000`)).body();
  const floats = new Float32Array(samples.buffer.slice(samples.byteOffset, samples.byteOffset + samples.length));
  expect([...floats]).toEqual(
    Array.from({ length: 1000 }, (_, i) => pcm.channels.map((channel) => channel[start + i])).flat(),
  );
});

test('scripts of the page are sent compressed where that is accepted, and are the same', async ({ request }) => {
  const html = await (await request.get('/')).text();
  const script = /src="(\/assets\/[^"]+\.js)"/.exec(html)?.[1] ?? '';
  const [packed, plain] = await Promise.all(
    ['br', 'identity'].map((encoding) => request.get(script, { headers: { 'accept-encoding': encoding } })),
  );
  expect(packed.headers()['content-encoding']).toBe('br');
  expect(plain.headers()['content-encoding']).toBeUndefined();
  expect(Number(packed.headers()['content-length'])).toBeLessThan(0.5 * Number(plain.headers()['content-length']));
  expect(sha256(await packed.body())).toBe(sha256(await plain.body()));
});

test('the shelf: rename, delete and restore, uses, headerless readings, other sounds of the same file', async ({
  request,
}) => {
  const onShelf = async (id: string): Promise<ShelfView | undefined> =>
    (await (await request.get('/api/sources')).json()).find((entry: ShelfView) => entry.id === id);
  const source: SourceView = await (await upload(request, 'horn.wav', wavBytes(0.35))).json();
  const renamed = await request.patch(`/api/sources/${source.id}`, { data: { name: 'dir/fog\u0007 horn.wav' } });
  expect(await renamed.json()).toMatchObject({ name: 'fog horn.wav', usedBy: [] });
  expect((await request.patch(`/api/sources/${source.id}`, { data: { name: '  ' } })).status()).toBe(400);
  // 96 bins of two signed bytes each.
  expect(Buffer.from((await onShelf(source.id))?.waveform ?? '', 'base64')).toHaveLength(
    2 * Math.min(96, Math.ceil(source.facts.frames / 256)),
  );

  expect((await request.delete(`/api/sources/${source.id}`)).status()).toBe(204);
  expect(await onShelf(source.id)).toBeUndefined();
  expect((await request.get(`/api/sources/${source.id}/file`)).status()).toBe(404);
  expect((await request.post(`/api/sources/${source.id}/restore`)).status()).toBe(200);
  expect(await onShelf(source.id)).toBeDefined();

  const reading = { encoding: 'pcm-s16le', sampleRate: 44_100, channels: 2, skip: 44 };
  const read: SourceView = await (
    await request.post(`/api/sources?name=horn.raw&reading=${encodeURIComponent(JSON.stringify(reading))}`, {
      data: wavBytes(0.35),
      headers: { 'content-type': 'application/octet-stream' },
    })
  ).json();
  expect(read.id).not.toBe(source.id);
  expect(read.facts).toMatchObject({ container: 'headerless', frames: source.facts.frames, certainty: 'assumed' });
  const bad = await request.post(`/api/sources?name=x&reading=${encodeURIComponent('{"encoding":"x"}')}`, {
    data: 'x',
  });
  expect([bad.status(), (await bad.json()).error.message]).toEqual([
    400,
    'reading.encoding: there is no such encoding.',
  ]);

  const film: SourceView = await (
    await upload(request, 'film.mp4', readFileSync('codecs/fixtures/files/two-tracks.mp4'))
  ).json();
  const second: SourceView = await (await request.post(`/api/sources/${film.id}/again`, { data: { track: 1 } })).json();
  expect([film.facts.encoding, second.facts.encoding]).toEqual(['aac', 'mp3']);
  const third = await request.post(`/api/sources/${film.id}/again`, { data: { track: 2 } });
  expect([third.status(), (await third.json()).error.message]).toEqual([
    400,
    'film.mp4: The MPEG-4 file has no sound number 3; choose one from 1 to 2.',
  ]);
});

test('clips are added behind those that are there; an undo brings a deleted source back', async ({ request }) => {
  const source: SourceView = await (await upload(request, 'hoot.wav', wavBytes(0.45))).json();
  const job = await newJob(request);
  const more = (count: number) =>
    request.post(`/api/jobs/${job.id}/clips`, {
      data: {
        clips: Array.from({ length: count }, (_, i) => clip(source.id, `Hoot ${i}`)),
      },
    });
  expect((await more(1)).status()).toBe(201);
  const two: JobView = await (await more(2)).json();
  expect(two.job.clips.map(({ name }) => name)).toEqual(['Hoot 0', 'Hoot 0', 'Hoot 1']);
  expect(two.revision).toBe(job.revision + 2);
  expect(await codeOf(await more(998))).toBe('too-many-clips');

  const gone = Object.fromEntries(two.job.clips.map(({ id }) => [`clips/${id}`, null]));
  const emptied = await request.post(`/api/jobs/${job.id}/changes`, {
    data: { revision: two.revision, change: gone },
  });
  expect(await emptied.json()).toEqual({ revision: two.revision + 1, history: { undo: 3, redo: 0 } });
  expect((await request.delete(`/api/sources/${source.id}`)).status()).toBe(204);
  expect((await request.post(`/api/jobs/${job.id}/undo`)).status()).toBe(200);
  const back: JobView = await (await request.get(`/api/jobs/${job.id}`)).json();
  expect(back.job).toEqual(two.job);
  expect(back.history).toEqual({ undo: 2, redo: 1 });
  const names = (await (await request.get('/api/sources')).json()).map(({ name }: ShelfView) => name);
  expect(names).toContain('hoot.wav');
});

test('prompts are spoken as WAV files; what cannot be spoken is refused in words', async ({ request }) => {
  const say = (text: string, more = {}) =>
    request.post('/api/speech', { data: { text, voice: 'woman', speed: 1, pitch: 1, ...more } });
  const spoken = await say('The gate is closing.');
  expect(spoken.headers()['content-type']).toBe('audio/wav');
  expect((await spoken.body()).subarray(0, 4).toString()).toBe('RIFF');
  expect(await codeOf(await say('漢字'))).toBe('bad-setting');
  for (const wrong of [{ voice: 'x' }, { speed: 9 }, { pitch: 0 }, { text: ' ' }]) {
    expect((await say('Gate.', wrong)).status()).toBe(400);
  }
});

test('a job: clips in order, changes on an old revision refused, a delivery with every file proved', async ({
  request,
}) => {
  const source: SourceView = await (await upload(request, 'tone.mp3', await soundFiles.mp3(3))).json();
  const job = await newJob(request);
  const clips = [
    { ...clip(source.id, 'Second', { start: 0, end: 44_100 }), id: randomUUID() },
    { ...clip(source.id, 'First', { start: 44_100, end: 88_200 }), id: randomUUID() },
  ];
  expect(await (await put(request, job.id, job.revision, clips)).json()).toMatchObject({ revision: 1 });
  const view: JobView = await (await request.get(`/api/jobs/${job.id}`)).json();
  expect(view.job.clips.map(({ id }) => id)).toEqual(clips.map(({ id }) => id));
  const late = await put(request, job.id, job.revision, clips);
  expect([late.status(), await codeOf(late)]).toEqual([409, 'changed-elsewhere']);
  const since = await request.get(`/api/jobs/${job.id}/changes?after=0`);
  expect((await since.json()).changes).toEqual([putting(clips)]);

  const inUse = await request.delete(`/api/sources/${source.id}`);
  expect([inUse.status(), await codeOf(inUse)]).toEqual([409, 'in-use']);

  const started = await request.post(`/api/jobs/${job.id}/deliveries`);
  expect(started.status()).toBe(202);
  const delivery = await built(request, (await started.json()).id);
  expect(delivery.state).toBe('done');
  expect(delivery.artifacts.map(({ path }) => path)).toEqual(['second.raw', 'first.raw', 'ring-tones.txt']);
  for (const file of delivery.artifacts) {
    const bytes = await (await request.get(`/api/deliveries/${delivery.id}/files/${file.path}`)).body();
    expect([bytes.length, sha256(bytes)]).toEqual([file.bytes, file.sha256]);
    const findings = file.parts.flatMap((part) => part.findings);
    expect(findings.every(({ verdict }) => verdict === 'meets')).toBe(true);
  }
  const zip = join(scratch(), 'set.zip');
  writeFileSync(zip, await (await request.get(`/api/deliveries/${delivery.id}/zip`)).body());
  expect(zipEntries(zip)).toEqual(['second.raw', 'first.raw', 'ring-tones.txt']);
  expect((await request.get(`/api/deliveries/${delivery.id}/files/..%2F..%2Ftambur.sqlite`)).status()).toBe(404);

  expect((await request.delete(`/api/jobs/${job.id}`)).status()).toBe(204);
  expect((await request.delete(`/api/sources/${source.id}`)).status()).toBe(204);
  expect((await request.get(`/api/deliveries/${delivery.id}`)).status()).toBe(404);
});

test('a build can be cancelled, and leaves nothing', async ({ request, server }) => {
  const source: SourceView = await (await upload(request, 'long.wav', wavBytes(90, 2, 48_000))).json();
  const job = await newJob(request, 'microcontroller-8-bit-dac');
  const clips = Array.from({ length: 40 }, (_, i) => clip(source.id, `Clip ${i}`));
  await put(request, job.id, 0, clips);
  const { id } = await (await request.post(`/api/jobs/${job.id}/deliveries`)).json();
  const cancelled = await request.post(`/api/deliveries/${id}/cancel`);
  expect((await cancelled.json()).state).toBe('cancelled');
  expect(readdirSync(join(server.data, 'deliveries')).filter((name) => name.includes(id))).toEqual([]);
  const download = await request.get(`/api/deliveries/${id}/zip`);
  expect([download.status(), await codeOf(download)]).toEqual([409, 'not-built']);
});

test.describe('bad input is answered with a code and one sentence, and leaves nothing', () => {
  for (const { name, bytes, code, words } of badFiles()) {
    test(name, async ({ request, server }) => {
      const answer = await upload(request, name, bytes);
      expect(answer.status()).toBe(422);
      const { error } = await answer.json();
      expect(error.code).toBe(code);
      expect(error.message).toMatch(words);
      expect(error.message).toContain(name);
      expect(readdirSync(join(server.data, 'uploads'))).toEqual([]);
      expect(existsSync(join(server.data, 'sources', sha256(bytes)))).toBe(false);
      expect(existsSync(join(server.data, 'sources', `${sha256(bytes)}.part`))).toBe(false);
    });
  }

  test('cut off in its data: used, with a warning', async ({ request }) => {
    const answer = await upload(request, 'cut.wav', wavBytes(1).subarray(0, 100_000));
    expect((await answer.json()).facts.warnings[0]).toMatch(/^The file is cut off/);
  });

  test('over the limit: refused by its stated size, before anything is sent', async ({ server }) => {
    const { port } = new URL(server.url);
    const answer = await new Promise<{ status: number | undefined; body: string }>((resolve, reject) => {
      const sent = plainRequest(
        {
          port,
          host: '127.0.0.1',
          path: '/api/sources?name=huge.wav',
          method: 'POST',
          headers: { 'content-length': 4_100_000_000 },
        },
        (response) => {
          let body = '';
          response.on('data', (chunk) => {
            body += chunk;
          });
          response.on('end', () => {
            resolve({ status: response.statusCode, body });
            sent.destroy();
          });
        },
      );
      sent.on('error', reject);
      sent.write('RIFF');
    });
    expect(answer.status).toBe(413);
    expect(JSON.parse(answer.body).error).toMatchObject({
      code: 'too-large',
      message: expect.stringContaining('larger than 4.00 GB'),
    });
    expect(readdirSync(join(server.data, 'uploads'))).toEqual([]);
  });

  test('settings, targets, bodies and addresses that do not exist', async ({ request }) => {
    const source: SourceView = await (await upload(request, 'a.wav', wavBytes(0.5))).json();
    const job = await newJob(request);
    const change = (change: unknown) => request.post(`/api/jobs/${job.id}/changes`, { data: { revision: 0, change } });
    const wished = (wishes: object) => putting([{ ...clip(source.id, 'x'), wishes }]);
    const cases = [
      [await change(wished({ rate: { sampleRate: -5 } })), 400, 'bad-document'],
      [await change(wished({ warp: {} })), 400, 'bad-document'],
      [await change(putting([clip(source.id, '')])), 400, 'bad-document'],
      [await change(putting([clip('no-such-source', 'x')])), 404, 'not-found'],
      [await change({ 'colours/1': 'red' }), 400, 'bad-document'],
      [await change({}), 400, 'bad-document'],
      [await change('clips'), 400, 'bad-request'],
      [await request.post('/api/jobs', { data: { title: 'x', sheet: 'toaster' } }), 404, 'unknown-target'],
      [await request.post('/api/jobs', { data: { title: ' ', sheet: 'desk-phone-ring-tone' } }), 400, 'bad-request'],
      [await request.post(`/api/jobs/${job.id}/deliveries`), 409, 'no-clips'],
      [await request.get('/api/jobs/none'), 404, 'not-found'],
      [await request.get('/api/nowhere'), 404, 'not-found'],
    ] as const;
    for (const [answer, status, code] of cases) expect([answer.status(), await codeOf(answer)]).toEqual([status, code]);
  });

  test('a cut with its end before its start: the build says which clip, and delivers the others', async ({
    request,
  }) => {
    const source: SourceView = await (await upload(request, 'b.wav', wavBytes(0.7))).json();
    const job = await newJob(request);
    const clips = [clip(source.id, 'Good'), clip(source.id, 'Backwards', { start: 20_000, end: 10_000 })];
    await put(request, job.id, 0, clips);
    const delivery = await built(request, (await (await request.post(`/api/jobs/${job.id}/deliveries`)).json()).id);
    expect(delivery.state).toBe('done');
    expect(delivery.error).toBe(
      'Not built: Backwards: The cut ends at 0.227 s, not after its start at 0.454 s; set the end after the start.',
    );
    expect(delivery.artifacts.map(({ path }) => path)).toEqual(['good.raw', 'ring-tones.txt']);
  });
});

test('sheets: added, changed, refused; a delivery keeps the sheet as it was', async ({ request, server }) => {
  const list = async () => (await (await request.get('/api/targets')).json()) as SheetView[];
  const { isOwn, usedBy, words, ...phone } = (await list()).find(
    ({ id }) => id === 'desk-phone-ring-tone',
  ) as SheetView;
  expect([isOwn, Array.isArray(usedBy)]).toEqual([false, true]);
  expect(words['']?.[0]).toBe('container: headerless');
  expect(words['older-sets']).toContain('length: 240 to 16\u202f080 frames, in blocks of 240');
  const sheet = { ...phone, id: 'old-phone', name: 'Old phone' };
  expect(await (await request.post('/api/targets', { data: { sheet } })).json()).toMatchObject({
    id: 'old-phone',
    isOwn: true,
  });
  expect(await (await request.post('/api/targets', { data: { sheet } })).json()).toMatchObject({ id: 'old-phone-2' });
  // A sheet of format 1 is taken, and is of format 2 from then on.
  const older = JSON.parse(readFileSync('core/documents/fixtures/format-1/own-sheet.json', 'utf8'));
  const taken: SheetView = await (await request.post('/api/targets', { data: { sheet: older } })).json();
  expect(taken).toMatchObject({ id: 'spare-board', format: 2, packs: [{ path: 'sounds.h' }] });
  await request.delete(`/api/targets/${taken.id}`);
  const file = await request.get('/api/targets/old-phone/file');
  expect(file.headers()['content-disposition']).toContain('old-phone.json');
  expect(await file.json()).toEqual(sheet);

  const source: SourceView = await (await upload(request, 'phone bell.wav', wavBytes(0.7313))).json();
  const job = await newJob(request, 'old-phone');
  await put(request, job.id, 0, [clip(source.id, 'Bell')]);
  const build = async () => built(request, (await (await request.post(`/api/jobs/${job.id}/deliveries`)).json()).id);
  const before = await build();
  const requirements = [...phone.requirements, { key: 'extension', kind: 'extension', anyOf: ['ul'] }];
  const changed = await request.put('/api/targets/old-phone', { data: { sheet: { ...sheet, requirements } } });
  expect((await changed.json()).usedBy).toEqual([{ jobId: job.id, title: 'Test job' }]);
  expect((await build()).artifacts[0].path).toBe('bell.ul');
  const kept = await (await request.get(`/api/deliveries/${before.id}`)).json();
  expect(kept.artifacts[0].path).toBe('bell.raw');
  expect(kept.artifacts[0].parts[0].findings.find(({ title }: { title: string }) => title === 'extension').wanted).toBe(
    '.raw',
  );

  await request.post('/api/jobs', { data: { title: 'Old', sheet: 'old-phone', variant: 'older-sets' } });
  const cases = [
    // A job uses the variant that would go.
    [await request.put('/api/targets/old-phone', { data: { sheet: { ...sheet, variants: [] } } }), 409, 'in-use'],
    [await request.put('/api/targets/loop-player', { data: { sheet } }), 409, 'built-in'],
    [await request.delete('/api/targets/old-phone'), 409, 'in-use'],
    [await request.delete('/api/targets/nowhere'), 404, 'not-found'],
    [await request.post('/api/targets', { data: { sheet: { ...sheet, requirements: [{}] } } }), 400, 'bad-document'],
    [await request.post('/api/targets', { data: { sheet: { ...sheet, format: 99 } } }), 400, 'newer-format'],
    [
      await request.post('/api/jobs', { data: { title: 'x', sheet: 'old-phone', variant: 'y' } }),
      400,
      'unknown-variant',
    ],
    [
      await request.post(`/api/jobs/${job.id}/changes`, { data: { revision: 1, change: { variant: 'y' } } }),
      400,
      'unknown-variant',
    ],
  ] as const;
  for (const [answer, status, code] of cases) expect([answer.status(), await codeOf(answer)]).toEqual([status, code]);
  expect((await request.delete('/api/targets/old-phone-2')).status()).toBe(204);

  // Another variant, and files in the folder that a sheet wants.
  const cues = await newJob(request, 'transmitter-spoken-cue');
  await put(request, cues.id, 0, [clip(source.id, 'Bell')]);
  const delivery = await built(request, (await (await request.post(`/api/jobs/${cues.id}/deliveries`)).json()).id);
  expect(delivery.artifacts[0].path).toBe('sounds/en/bell.wav');
  expect(existsSync(join(server.data, 'deliveries', delivery.id, 'sounds', 'en', 'bell.wav'))).toBe(true);
  const one = await request.get(`/api/deliveries/${delivery.id}/files/${encodeURIComponent('sounds/en/bell.wav')}`);
  expect((await one.body()).length).toBe(delivery.artifacts[0].bytes);
  const message = await request.post('/api/jobs', {
    data: { title: 'Hold', sheet: 'telephone-system-message', variant: 'a-law' },
  });
  const hold = await message.json();
  await put(request, hold.id, 0, [clip(source.id, 'Bell')]);
  const held = await built(request, (await (await request.post(`/api/jobs/${hold.id}/deliveries`)).json()).id);
  expect(held.artifacts[0].parts[0].facts.encoding).toBe('a-law');
  expect(held.sheet.name).toBe('Telephone system message, A-law');
});

test('a job is exported with all that belongs to it, and imported as it was; a damaged export leaves nothing', async ({
  request,
  server,
}) => {
  const source: SourceView = await (await upload(request, 'export bell.wav', wavBytes(0.9127))).json();
  const older = JSON.parse(readFileSync('core/documents/fixtures/format-1/own-sheet.json', 'utf8'));
  const sheet: SheetView = await (await request.post('/api/targets', { data: { sheet: older } })).json();
  const job = await newJob(request, sheet.id);
  await put(request, job.id, 0, [clip(source.id, 'Bell', { start: 0, end: 20_000 }), clip(source.id, 'Whole')]);
  await built(request, (await (await request.post(`/api/jobs/${job.id}/deliveries`)).json()).id);
  const exported = async (id: string) => (await request.get(`/api/jobs/${id}/export`)).body();
  const bytes = await exported(job.id);
  expect(sha256(await exported(job.id))).toBe(sha256(bytes));
  const folder = scratch();
  const zip = join(folder, 'job.zip');
  writeFileSync(zip, bytes);
  const paths = zipEntries(zip);
  expect(paths).toEqual([...paths].sort());
  expect(paths).toEqual(
    expect.arrayContaining(['job.json', 'manifest.json', `sheets/${sheet.id}.json`, `sources/${source.sha256}`]),
  );

  // Where nothing of it is: another data folder would be the same.
  expect((await request.delete(`/api/jobs/${job.id}`)).status()).toBe(204);
  expect((await request.delete(`/api/targets/${sheet.id}`)).status()).toBe(204);
  expect((await request.delete(`/api/sources/${source.id}`)).status()).toBe(204);
  const take = (data: Buffer) =>
    request.post('/api/jobs/import?name=job.zip', { data, headers: { 'content-type': 'application/octet-stream' } });
  const state = async () => ({
    jobs: (await (await request.get('/api/jobs')).json()).length,
    sheets: (await (await request.get('/api/targets')).json()).length,
    sources: (await (await request.get('/api/sources')).json()).length,
    folders: readdirSync(join(server.data, 'deliveries')).length + readdirSync(join(server.data, 'uploads')).length,
  });
  const before = await state();
  const at = bytes.indexOf('RIFF') + 2000;
  const bent = Buffer.from(bytes);
  bent[at] ^= 1;
  for (const broken of [bytes.subarray(0, bytes.length - 30), bent, Buffer.from('no ZIP at all')]) {
    const answer = await take(broken);
    expect([answer.status(), await codeOf(answer)]).toEqual([422, 'damaged']);
  }
  expect(await state()).toEqual(before);

  const taken: JobView = await (await take(bytes)).json();
  expect(taken.job).toMatchObject({ title: 'Test job', sheet: sheet.id });
  expect(taken.job.clips.map(({ name, pieces }) => [name, pieces[0].cut])).toEqual([
    ['Bell', { start: 0, end: 20_000 }],
    ['Whole', undefined],
  ]);
  const [delivery]: DeliveryView[] = await (await request.get(`/api/jobs/${taken.id}/deliveries`)).json();
  const [file] = delivery.artifacts;
  const kept = await (await request.get(`/api/deliveries/${delivery.id}/files/${file.path}`)).body();
  expect(sha256(kept)).toBe(file.sha256);
  // Built once more it is the same, byte for byte.
  const again = await built(request, (await (await request.post(`/api/jobs/${taken.id}/deliveries`)).json()).id);
  expect(again.artifacts.map(({ path, sha256: sum }) => [path, sum])).toEqual([[file.path, file.sha256]]);
  await request.delete(`/api/jobs/${taken.id}`);
  await request.delete(`/api/targets/${sheet.id}`);
});

test('foreign hosts and origins are refused, the own ones are not', async ({ server }) => {
  const { port, host } = new URL(server.url);
  const status = (headers: Record<string, string>) =>
    new Promise((resolve, reject) => {
      plainRequest({ port, host: '127.0.0.1', path: '/api/jobs', headers }, (response) => {
        response.resume();
        resolve(response.statusCode);
      })
        .on('error', reject)
        .end();
    });
  expect(await status({ host })).toBe(200);
  expect(await status({ host: `localhost:${port}`, origin: `http://localhost:${port}` })).toBe(200);
  expect(await status({ host: `example.org:${port}` })).toBe(403);
  expect(await status({ host, origin: 'http://example.org' })).toBe(403);
  expect(await status({ host, origin: 'null' })).toBe(403);
});
