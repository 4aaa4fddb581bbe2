// Two hours of sound: memory of the server while it comes in, and the time until a short cut of it stands on the bench.
// Run after a build: npm run bench:long
import { createReadStream, createWriteStream, mkdtempSync, rmSync, statSync } from 'node:fs';
import { request } from 'node:http';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import { registerMp3Encoder } from '@mediabunny/mp3-encoder';
import { chromium } from '@playwright/test';
import { AudioSample, AudioSampleSource, BufferTarget, Mp3OutputFormat, Output } from 'mediabunny';
import { machine, median, spread, writeSection } from './report.mjs';
import { chromiumOptions, startServer } from './server.mjs';
import { minute, RATE, writeWav } from './sounds.mjs';

const MINUTES = 120;
const RUNS = 5;
const folder = mkdtempSync(join(tmpdir(), 'long-'));

/** One minute at 128 kbit/s, its frames over and over: an MP3 file is a row of frames. */
async function writeMp3(path, samples) {
  registerMp3Encoder();
  const target = new BufferTarget();
  const output = new Output({ format: new Mp3OutputFormat({ xingHeader: false }), target });
  const source = new AudioSampleSource({ codec: 'mp3', bitrate: 128_000 });
  output.addAudioTrack(source);
  await output.start();
  const sample = new AudioSample({ data: samples, format: 's16', numberOfChannels: 2, sampleRate: RATE, timestamp: 0 });
  await source.add(sample);
  sample.close();
  await output.finalize();
  const bytes = Buffer.from(target.buffer);
  async function* parts() {
    for (let i = 0; i < MINUTES; i++) yield bytes;
  }
  await pipeline(parts, createWriteStream(path));
}

const send = (url, path, name) =>
  new Promise((resolve, reject) => {
    const { size } = statSync(path);
    const sent = request(
      `${url}/api/sources?name=${name}`,
      { method: 'POST', headers: { 'content-length': size } },
      (answer) => {
        const chunks = [];
        answer.on('data', (chunk) => chunks.push(chunk));
        answer.on('end', () => {
          const body = JSON.parse(Buffer.concat(chunks));
          answer.statusCode === 201 ? resolve(body) : reject(new Error(JSON.stringify(body)));
        });
      },
    );
    sent.on('error', reject);
    createReadStream(path).pipe(sent);
  });

const post = async (url, body) => {
  const answer = await fetch(url, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify(body),
  });
  if (!answer.ok) throw new Error(await answer.text());
  return answer.json();
};

const samples = minute();
const wav = join(folder, 'long.wav');
const mp3 = join(folder, 'long.mp3');
await writeWav(wav, samples, MINUTES);
await writeMp3(mp3, samples);

const rows = [];
const browser = await chromium.launch(chromiumOptions);
for (const [name, path] of [
  ['long.wav', wav],
  ['long.mp3', mp3],
]) {
  const server = await startServer();
  const atRest = server.mostMemory();
  const started = performance.now();
  const source = await send(server.url, path, name);
  const seconds = (performance.now() - started) / 1000;
  const memory = server.mostMemory();
  const job = await post(`${server.url}/api/jobs`, { title: 'Long', sheet: 'desk-phone-ring-tone' });
  const start = 3600 * RATE;
  const cut = { start, end: start + 10 * RATE };
  const clip = { name: 'Cut', pieces: [{ source: source.id, cut, gapMs: 0 }] };
  await post(`${server.url}/api/jobs/${job.id}/clips`, { clips: [clip] });
  const opened = [];
  for (let run = 0; run < RUNS; run++) {
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
    await page.goto(server.url);
    await page.getByRole('link', { name: 'Long', exact: true }).waitFor();
    const clicked = performance.now();
    await page.getByRole('link', { name: 'Long', exact: true }).click();
    await page.locator('[data-testid=result-lane][data-current=true]').waitFor();
    opened.push(performance.now() - clicked);
    await page.close();
  }
  const { frames, sampleRate } = source.facts;
  rows.push(
    `| ${name}, ${(statSync(path).size / 1e6).toFixed(0)} MB, ${(frames / sampleRate / 60).toFixed(1)} minutes | ${seconds.toFixed(0)} s (${(frames / sampleRate / seconds).toFixed(0)} times real time) | ${atRest.toFixed(0)} MB | ${memory.toFixed(0)} MB | ${spread(opened)} |`,
  );
  if (memory >= 500 || median(opened) >= 2000) process.exitCode = 1;
  await server.stop();
}
await browser.close();
rmSync(folder, { recursive: true, force: true });

writeSection(
  'long',
  `## Two hours of sound

Made by \`npm run bench:long\` on ${machine}. The server's largest resident memory (goal: below 500 MB); the time from the
click on the job to its bench with the result of a 10 s cut from the middle, ms, median (least to most) of ${RUNS} (goal: below 2 000).

| file | sent, decoded, measured, on disk | memory before | memory at most | bench opened |
|---|---|---|---|---|
${rows.join('\n')}
`,
);
