// How soon others are answered while hostile requests are at work. Run: npm run bench:hostile
import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { writeSection } from './report.mjs';
import { startServer } from './server.mjs';

/** ms: an answer that comes later is felt. */
const GOAL = 200;

const folder = mkdtempSync(join(tmpdir(), 'hostile-'));
const many = (count, text) => new Array(count).fill(text).join(',');

/** A ZIP of texts, packed by Python. */
function zipOf(texts) {
  for (const [i, text] of Object.values(texts).entries()) writeFileSync(join(folder, String(i)), text);
  const program = `import sys, zipfile
with zipfile.ZipFile(sys.argv[1] + "/x.zip", "w", zipfile.ZIP_DEFLATED) as z:
  for i, name in enumerate(sys.argv[2:]):
    z.write(f"{sys.argv[1]}/{i}", name)`;
  execFileSync('python3', ['-c', program, folder, ...Object.keys(texts)]);
  return readFileSync(join(folder, 'x.zip'));
}

const server = await startServer();
const json = async (path, init) => (await fetch(server.url + path, init)).json();
const [sheet] = await json('/api/targets');
const { isOwn: _, usedBy: __, words: ___, ...plain } = sheet;
const job = await json('/api/jobs', {
  method: 'POST',
  headers: { 'content-type': 'application/json' },
  body: JSON.stringify({ title: 'x', sheet: sheet.id }),
});
const manifest = (sources) => `{"format":2,"kind":"job","sources":[${sources}],"hashes":{}}`;
const jobText = (clips) =>
  `{"format":2,"title":"x","sheet":"${sheet.id}","variant":null,"values":{},"wishes":{},"places":{},"ownLists":{},"clips":[${clips}]}`;
const exported = (clips, sources) => ({
  path: '/api/jobs/import?name=x.zip',
  type: 'application/octet-stream',
  body: zipOf({ 'manifest.json': manifest(sources), 'job.json': jobText(clips), [`sheets/${sheet.id}.json`]: '{}' }),
});
const body = (path, value) => ({
  path,
  type: 'application/json',
  body: typeof value === 'string' ? value : JSON.stringify(value),
});
const source = `{"id":"x","sha256":"${'0'.repeat(64)}","name":"x","reading":null,"track":0}`;
/** Opus that states 255 channels. */
const opus = readFileSync('codecs/fixtures/tone-440-hz-24000-frames.opus');
opus[28 + 9] = 255;

const attacks = {
  'an export with a job of 16 million clips': exported(many(16_000_000, '{}'), ''),
  'an export that names a source 100 000 times': exported('', many(100_000, source)),
  'a change of 50 000 places': body(`/api/jobs/${job.id}/changes`, {
    revision: 0,
    change: Object.fromEntries(Array.from({ length: 50_000 }, (_, i) => [`places/${i}`, `x${i}`])),
  }),
  'a sheet of 20 000 variants': body('/api/targets', {
    sheet: {
      ...plain,
      variants: Array.from({ length: 20_000 }, (_, i) => ({ id: `v${i}`, name: 'V', replace: {}, without: [] })),
    },
  }),
  'a sheet of 70 000 requirements': body('/api/targets', {
    sheet: {
      ...plain,
      requirements: Array.from({ length: 70_000 }, (_, i) => ({ key: `k${i}`, kind: 'name', most: 9 })),
    },
  }),
  '4 MB of empty lists': body('/api/jobs', `[${many(1_300_000, '[]')}]`),
  'Opus of 255 channels': { path: '/api/sources?name=x.opus', type: 'application/octet-stream', body: opus },
};

const rows = [];
let isMet = true;
for (const [what, { path, type, body }] of Object.entries(attacks)) {
  let isOver = false;
  const started = performance.now();
  const attack = fetch(server.url + path, { method: 'POST', headers: { 'content-type': type }, body }).then(
    (answer) => {
      isOver = true;
      return answer.status;
    },
  );
  let longest = 0;
  while (!isOver) {
    const asked = performance.now();
    await (await fetch(`${server.url}/api/jobs`)).text();
    longest = Math.max(longest, performance.now() - asked);
  }
  const status = await attack;
  isMet &&= longest <= GOAL && status >= 400 && status < 500;
  rows.push(`| ${what} | ${status} | ${Math.round(performance.now() - started)} ms | ${Math.round(longest)} ms |`);
}
await server.stop();
rmSync(folder, { recursive: true });
writeSection(
  'hostile',
  `## Hostile requests\n\nMade by \`npm run bench:hostile\`: what comes, how it is answered and after how long, and the longest that another request waited meanwhile (goal ${GOAL} ms).\n\n| request | status | answered after | another one, at most |\n|---|---|---|---|\n${rows.join('\n')}`,
);
process.exit(isMet ? 0 : 1);
