// How long the page listens: recordings of 10 s against files of 10 s.
// Run after a build: npm run bench:listening
import { spawnSync } from 'node:child_process';
import { mkdtempSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { chromium } from '@playwright/test';
import { machine, median, writeSection } from './report.mjs';
import { chromiumOptions, startServer } from './server.mjs';
import { wavHead } from './sounds.mjs';

const SECONDS = 10;
const RUNS = 5;
/** Bare samples may be much, a file with a header less. */
const TARGETS = ['desk-phone-ring-tone', 'percussion-pad-sample', 'portable-player'];

/** Notes of a quarter of a second each, with some noise; `speed` is what a device makes of it. */
function tune(rate, seconds, { speed = 1, noise = 0 } = {}) {
  const out = new Int16Array(Math.round((seconds * rate) / speed));
  let seed = 7;
  for (let i = 0; i < out.length; i++) {
    const at = (i * speed) / rate;
    const note = Math.floor(4 * at);
    const pitch = 300 * 2 ** (((note * 7) % 13) / 12);
    seed = (Math.imul(seed, 1_664_525) + 1_013_904_223) >>> 0;
    const tones = [1, 2, 3].reduce((sum, n) => sum + Math.sin(2 * Math.PI * n * pitch * at) / n, 0);
    out[i] = 7000 * tones * Math.exp(-6 * (at - note / 4)) + noise * (seed / 2 ** 31 - 1);
  }
  return Buffer.concat([wavHead(rate, 1, 2 * out.length), Buffer.from(out.buffer)]);
}

const folder = mkdtempSync(join(tmpdir(), 'listening-'));
const source = join(folder, 'tune.wav');
const recording = join(folder, 'recording.wav');
writeFileSync(source, tune(44_100, SECONDS));
// The device is a little slow.
writeFileSync(recording, tune(48_000, SECONDS - 0.1, { speed: 0.995, noise: 500 }));

const server = await startServer();
const browser = await chromium.launch(chromiumOptions);
const rows = [];
for (const target of TARGETS) {
  const out = join(folder, target);
  const { status, stderr } = spawnSync('./tambur', ['make', '--target', target, source, '--out', out]);
  if (status !== 0) throw new Error(`make ended with ${status}: ${stderr}`);
  const [name] = readdirSync(out).filter((entry) => entry.startsWith('tune'));
  const times = [];
  for (let run = 0; run < RUNS; run++) {
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
    await page.goto(`${server.url}/try?target=${target}`);
    await page.getByLabel('A card to try').setInputFiles(join(out, name));
    const input = page.getByLabel('A recording of the device');
    await input.waitFor({ state: 'attached' });
    const started = performance.now();
    await input.setInputFiles(recording);
    await page.getByText(/^It played the file/).waitFor();
    times.push((performance.now() - started) / 1000);
    await page.close();
  }
  rows.push(
    `| ${name} for a ${target.replaceAll('-', ' ')} | ${median(times).toFixed(2)} s | ${Math.max(...times).toFixed(2)} s |`,
  );
}
await browser.close();
await server.stop();
rmSync(folder, { recursive: true });

writeSection(
  'listen',
  `## Listening to a device

Made by \`npm run bench:listening\` on ${machine}: a recording of ${SECONDS} s against a file of ${SECONDS} s, in the page's worker,
headless Chromium, from its choice to what the device did; ${RUNS} pages that have not listened before. The goal is 3 s.

| file | median | at most |
|---|---|---|
${rows.join('\n')}
`,
);
