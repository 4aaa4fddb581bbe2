// Times the build of a large set, and that of the same set after a change of one clip. Run: npm run build && npm run bench:builds
import { spawn } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { machine, writeSection } from './report.mjs';
import { startServer } from './server.mjs';
import { RATE, wavHead } from './sounds.mjs';

const CLIPS = 200;
const SECONDS = 5;

/** A WAV file of one channel; another number gives another sound. */
function wav(number) {
  const sound = Buffer.alloc(2 * RATE * SECONDS);
  for (let i = 0; i < RATE * SECONDS; i++) {
    sound.writeInt16LE(Math.round(9000 * Math.sin(i / (9 + number / 20)) * Math.sin(i / 30_000)), 2 * i);
  }
  return Buffer.concat([wavHead(RATE, 1, sound.length), sound]);
}

const server = await startServer();
async function call(path, method = 'GET', body) {
  const isJson = body !== undefined && !Buffer.isBuffer(body);
  const answer = await fetch(server.url + path, {
    method,
    headers: { 'content-type': isJson ? 'application/json' : 'application/octet-stream' },
    body: isJson ? JSON.stringify(body) : body,
  });
  if (!answer.ok) throw new Error(await answer.text());
  return answer.json();
}

/** Seconds until a delivery of the job is done. */
async function built(job) {
  const started = performance.now();
  const { id } = await call(`/api/jobs/${job}/deliveries`, 'POST', {});
  for (;;) {
    const { state, error } = await call(`/api/deliveries/${id}`);
    if (state === 'done' && !error) return (performance.now() - started) / 1000;
    if (state !== 'building') throw new Error(`${state}: ${error}`);
    await new Promise((resolve) => setTimeout(resolve, 20));
  }
}

/** A job of the clips for a sheet. */
async function setOf(sheet, clips) {
  const job = await call('/api/jobs', 'POST', { title: `Many ${randomUUID()}`, sheet });
  await call(`/api/jobs/${job.id}/clips`, 'POST', { clips });
  return job;
}

/** Longest time between two signs of progress while `work` goes on, in seconds. */
async function longestGap(work) {
  const stop = new AbortController();
  const answer = await fetch(`${server.url}/api/events`, { signal: stop.signal });
  let last = performance.now();
  let gap = 0;
  const listening = (async () => {
    for await (const piece of answer.body) {
      if (!/"type":"(build|built)"/.test(Buffer.from(piece).toString())) continue;
      gap = Math.max(gap, performance.now() - last);
      last = performance.now();
    }
  })().catch(() => undefined);
  last = performance.now();
  const result = await work();
  stop.abort();
  await listening;
  return [result, gap / 1000];
}

/** The same work by two processes of the command line that know nothing of each other, each with half of the files. */
async function byTwoProcesses(sheet) {
  const out = mkdtempSync(join(tmpdir(), 'bench-'));
  const started = performance.now();
  await Promise.all(
    [0, 1].map(
      (half) =>
        new Promise((resolve, reject) => {
          const files = paths.filter((_, i) => i % 2 === half);
          const args = [
            'build/cli/main.js',
            'make',
            '--target',
            sheet,
            '--jobs',
            '1',
            '--out',
            join(out, String(half)),
          ];
          spawn('node', [...args, ...files], { stdio: 'ignore' }).once('exit', (code) =>
            code < 2 ? resolve() : reject(new Error(`make ended with ${code}`)),
          );
        }),
    ),
  );
  const seconds = (performance.now() - started) / 1000;
  rmSync(out, { recursive: true });
  return seconds;
}

const sounds = mkdtempSync(join(tmpdir(), 'bench-sounds-'));
const clips = [];
const paths = [];
for (let i = 0; i < CLIPS; i++) {
  const bytes = wav(i);
  paths.push(join(sounds, `sound-${i}.wav`));
  writeFileSync(paths[i], bytes);
  const { id: source } = await call(`/api/sources?name=sound-${i}.wav`, 'POST', bytes);
  clips.push({ name: `Sound ${i}`, pieces: [{ source, gapMs: 0 }] });
}
const lines = [];
let phone;
for (const [name, sheet] of [
  ['desk phone', 'desk-phone-ring-tone'],
  ['two-way radio', 'two-way-radio-prompt'],
]) {
  const job = await setOf(sheet, clips);
  const [seconds, gap] = await longestGap(() => built(job.id));
  const two = await byTwoProcesses(sheet);
  lines.push(
    `| ${name}: all of them, s | ${seconds.toFixed(1)} | |`,
    `| ${name}: two processes of the command line, s | ${two.toFixed(1)} | |`,
    `| ${name}: of what the two reach | ${(two / seconds).toFixed(2)} | 0.9 |`,
    `| ${name}: longest time without progress, s | ${gap.toFixed(2)} | 1 |`,
  );
  phone ??= job;
}
const { revision, job: working } = await call(`/api/jobs/${phone.id}`);
const [clip] = working.clips;
await call(`/api/jobs/${phone.id}/changes`, 'POST', {
  revision,
  change: { [`clips/${clip.id}`]: { ...clip, wishes: { level: { peakDb: -6 } } } },
});
const second = await built(phone.id);
// Another job of the same clips takes everything over.
const third = await built((await setOf('desk-phone-ring-tone', clips)).id);
const memory = server.mostMemory();
await server.stop();
rmSync(sounds, { recursive: true });

writeSection(
  'builds',
  `## Building a set

Made by \`npm run bench:builds\` on ${machine}: ${CLIPS} clips of ${SECONDS} s at 44 100 Hz.

| what | measured | goal |
|---|---|---|
${lines.join('\n')}
| one has been changed, s | ${second.toFixed(2)} | 1.5 |
| another job of the same, s | ${third.toFixed(2)} | |
| most memory, MB | ${memory.toFixed(0)} | 600 |`,
);
