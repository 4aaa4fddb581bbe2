// Times the build of a large set, and that of the same set after a change of one clip. Run: npm run build && npm run bench:builds
import { randomUUID } from 'node:crypto';
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

const job = await call('/api/jobs', 'POST', { title: 'Many', sheet: 'desk-phone-ring-tone' });
const clips = [];
for (let i = 0; i < CLIPS; i++) {
  const { id: source } = await call(`/api/sources?name=sound-${i}.wav`, 'POST', wav(i));
  clips.push({ name: `Sound ${i}`, pieces: [{ source, gapMs: 0 }] });
}
await call(`/api/jobs/${job.id}/clips`, 'POST', { clips });
const first = await built(job.id);
const { revision, job: working } = await call(`/api/jobs/${job.id}`);
const [clip] = working.clips;
await call(`/api/jobs/${job.id}/changes`, 'POST', {
  revision,
  change: { [`clips/${clip.id}`]: { ...clip, wishes: { level: { peakDb: -6 } } } },
});
const second = await built(job.id);
// Another job of the same clips takes everything over.
const other = await call('/api/jobs', 'POST', { title: `Many ${randomUUID()}`, sheet: 'desk-phone-ring-tone' });
await call(`/api/jobs/${other.id}/clips`, 'POST', { clips });
const third = await built(other.id);
const memory = server.mostMemory();
await server.stop();

writeSection(
  'builds',
  `## Building a set

Made by \`npm run bench:builds\` on ${machine}: ${CLIPS} clips of ${SECONDS} s at 44 100 Hz for the desk phone's sheet.

| what | measured | goal |
|---|---|---|
| all of them, s | ${first.toFixed(1)} | |
| one has been changed, s | ${second.toFixed(2)} | 1.5 |
| another job of the same, s | ${third.toFixed(2)} | |
| most memory, MB | ${memory.toFixed(0)} | 600 |`,
);
