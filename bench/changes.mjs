// A job of a thousand clips: what a change of one setting sends and stores, and how long the server takes over it.
// Run after a build: npm run bench:changes
import { execFileSync } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { join } from 'node:path';
import { machine, median, spread, writeSection } from './report.mjs';
import { startServer } from './server.mjs';
import { shortWav } from './sounds.mjs';

const CLIPS = 1000;
const RUNS = 200;

const server = await startServer();
const call = async (path, body) => {
  const headers = { 'content-type': 'application/json' };
  const answer = await fetch(server.url + path, body ? { method: 'POST', headers, body: JSON.stringify(body) } : {});
  if (!answer.ok) throw new Error(await answer.text());
  return answer.json();
};
const source = await (
  await fetch(`${server.url}/api/sources?name=bell.wav`, { method: 'POST', body: shortWav(1) })
).json();
const { id } = await call('/api/jobs', { title: 'Thousand', sheet: 'desk-phone-ring-tone' });
const clips = Array.from({ length: CLIPS }, (_, i) => ({
  name: `Clip ${i}`,
  pieces: [{ source: source.id, cut: { start: i, end: 2000 + i }, gapMs: 0 }],
}));
const { job } = await call(`/api/jobs/${id}/clips`, { clips });

const times = { change: [], undo: [], follow: [] };
const sent = [];
let { revision } = await call(`/api/jobs/${id}`);
for (let run = 0; run < RUNS; run++) {
  const clip = job.clips[(run * 37) % CLIPS];
  const wishes = { level: { loudness: -16 - run / 100, ceilingDb: -1 }, ends: { fadeIn: { ms: run } } };
  const body = { revision, change: { [`clips/${clip.id}`]: { ...clip, wishes } } };
  sent.push(JSON.stringify(body).length);
  const timed = async (kind, work) => {
    const start = performance.now();
    const answer = await work();
    times[kind].push(performance.now() - start);
    return answer;
  };
  ({ revision } = await timed('change', () => call(`/api/jobs/${id}/changes`, body)));
  await timed('follow', () => call(`/api/jobs/${id}/changes?after=${revision - 1}`));
  if (run % 4 === 0) ({ revision } = await timed('undo', () => call(`/api/jobs/${id}/undo`, { n: randomUUID() })));
}
const stored = Number(
  execFileSync('python3', [
    '-c',
    'import sqlite3,sys; print(sqlite3.connect(sys.argv[1]).execute(\'select max(length(was)+length("is")) from changes where revision > 1\').fetchone()[0])',
    join(server.data, 'tambur.sqlite'),
  ]),
);
await server.stop();

writeSection(
  'changes',
  `## A change in a job of a thousand clips

Made by \`npm run bench:changes\` on ${machine}: ${RUNS} changes of one clip each, over HTTP, the answer included; ms, median
(least to most). Goal: below 20 ms, and below 2 000 bytes sent and stored.

| | |
|---|---|
| a change of one clip | ${spread(times.change)} ms |
| undo | ${spread(times.undo)} ms |
| another window takes a change over | ${spread(times.follow)} ms |
| sent for a change, at most | ${Math.max(...sent)} bytes |
| stored for a change, at most | ${stored} bytes |
| median of what is sent | ${median(sent)} bytes |`,
);
