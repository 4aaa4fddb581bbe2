// A card of five thousand files, checked by the command line and by the page.
// Run after a build: npm run bench:card
import { execFileSync, spawnSync } from 'node:child_process';
import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { chromium } from '@playwright/test';
import { machine, writeSection } from './report.mjs';
import { chromiumOptions, startServer } from './server.mjs';
import { shortWav } from './sounds.mjs';

const FILES = 5000;
const TARGET = 'loop-player';

const folder = mkdtempSync(join(tmpdir(), 'card-'));
const card = join(folder, 'card');
mkdirSync(card);
for (let number = 0; number < FILES; number++) {
  writeFileSync(join(card, `${String(number).padStart(4, '0')}.wav`), shortWav(number));
}

const seconds = (started) => ((performance.now() - started) / 1000).toFixed(1);

let started = performance.now();
const { status, stderr } = spawnSync('./tambur', ['check', '--target', TARGET, card], { maxBuffer: 1 << 28 });
// 1: the files do not meet the sheet.
if (status !== 1) throw new Error(`check ended with ${status}: ${stderr}`);
const onCommandLine = seconds(started);

const zip = `${card}.zip`;
execFileSync('python3', ['-c', "import shutil, sys; shutil.make_archive(sys.argv[1], 'zip', sys.argv[1])", card]);
const server = await startServer();
const browser = await chromium.launch(chromiumOptions);
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
await page.goto(`${server.url}/check?target=${TARGET}`);
started = performance.now();
await page.getByLabel('Files to check').setInputFiles(zip);
await page.getByText(/reading \d+ of/).waitFor();
const toProgress = seconds(started);
await page.getByText(/to be mended/).waitFor({ timeout: 600_000 });
const inPage = seconds(started);
started = performance.now();
await page.getByRole('heading', { level: 3 }).first().getByRole('button').click();
await page.getByRole('table').waitFor();
const opened = Math.round(performance.now() - started);
await browser.close();
await server.stop();
rmSync(folder, { recursive: true });

writeSection(
  'card',
  `## A card of ${FILES} files

Made by \`npm run bench:card\` on ${machine}: short WAV files in one folder, against the sheet of a loop player; in the page as a ZIP,
headless Chromium.

| | |
|---|---|
| checked by the command line | ${onCommandLine} s |
| in the page, from the choice of the file to the first progress | ${toProgress} s |
| to the verdicts | ${inPage} s |
| from the click on one of the files to its findings | ${opened} ms |
`,
);
