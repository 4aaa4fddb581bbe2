// A shelf of a thousand sources: how soon it is there, and whether it scrolls at 60 frames a second.
// Run after a build: npm run bench:shelf
import { chromium } from '@playwright/test';
import { machine, median, spread, writeSection } from './report.mjs';
import { chromiumOptions, startServer } from './server.mjs';

const SOURCES = 1000;
const RUNS = 7;

/** A short WAV file; another number gives other bytes. */
function wav(number) {
  const frames = 4000;
  const bytes = Buffer.alloc(44 + 2 * frames);
  bytes.write('RIFF', 0);
  bytes.writeUInt32LE(bytes.length - 8, 4);
  bytes.write('WAVEfmt ', 8);
  for (const [at, value] of [
    [16, 16],
    [24, 16_000],
    [28, 32_000],
    [40, 2 * frames],
  ])
    bytes.writeUInt32LE(value, at);
  for (const [at, value] of [
    [20, 1],
    [22, 1],
    [32, 2],
    [34, 16],
  ])
    bytes.writeUInt16LE(value, at);
  bytes.write('data', 36);
  for (let i = 0; i < frames; i++) {
    bytes.writeInt16LE(
      Math.round(9000 * Math.exp(-i / (400 + number)) * Math.sin(i * (0.05 + number / 5000))),
      44 + 2 * i,
    );
  }
  return bytes;
}

const server = await startServer();
for (let number = 0; number < SOURCES; number += 4) {
  await Promise.all(
    [0, 1, 2, 3].map(async (k) => {
      const name = `Bell ${String(number + k).padStart(4, '0')}.wav`;
      const answer = await fetch(`${server.url}/api/sources?name=${name}`, { method: 'POST', body: wav(number + k) });
      if (!answer.ok) throw new Error(await answer.text());
    }),
  );
}

const browser = await chromium.launch(chromiumOptions);
const opened = [];
const searched = [];
const frames = [];
for (let run = 0; run < RUNS; run++) {
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  await page.goto(server.url);
  await page.getByRole('heading', { name: 'Start a job' }).waitFor();
  opened.push(
    await page.evaluate(async () => {
      const started = performance.now();
      [...document.querySelectorAll('nav a')].find((link) => link.textContent === 'Shelf').click();
      while (document.querySelectorAll('[role=row]').length < 10) await new Promise(requestAnimationFrame);
      await new Promise(requestAnimationFrame);
      return performance.now() - started;
    }),
  );
  // Every picture of the screen moves the table on by some rows, to its end; what counts is how long pictures take.
  frames.push(
    ...(await page.evaluate(async () => {
      const scroller = document.querySelector('[role=rowgroup]');
      const times = [];
      let before = await new Promise(requestAnimationFrame);
      while (scroller.scrollTop + scroller.clientHeight < scroller.scrollHeight - 1) {
        scroller.scrollTop += 150;
        const now = await new Promise(requestAnimationFrame);
        times.push(now - before);
        before = now;
      }
      return times;
    })),
  );
  searched.push(
    await page.evaluate(async () => {
      const field = document.querySelector('input[type=search]');
      const started = performance.now();
      Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value').set.call(field, 'bell 0777');
      field.dispatchEvent(new Event('input', { bubbles: true }));
      while (document.querySelectorAll('[role=row]').length !== 2) await new Promise(requestAnimationFrame);
      return performance.now() - started;
    }),
  );
  await page.close();
}
await browser.close();
await server.stop();

const late = frames.filter((time) => time > 25).length;
writeSection(
  'shelf',
  `## A shelf of ${SOURCES} sources

Made by \`npm run bench:shelf\` on ${machine}, headless Chromium, ${RUNS} runs. Milliseconds: median (least to most).

| what a person waits for | ms | goal |
|---|---|---|
| from the click on Shelf to its rows | ${spread(opened)} | 1 000 |
| from a letter typed to the rows found | ${spread(searched)} | |
| one picture of the screen while it scrolls, ${frames.length} pictures | ${median(frames).toFixed(1)} | 16.7 |
| pictures that came late (over 25 ms) | ${late} of ${frames.length} | |
`,
);
