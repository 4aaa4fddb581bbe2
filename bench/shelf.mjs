// A shelf of a thousand sources, and one of twenty thousand with five hundred jobs: how soon it is there, and whether it
// scrolls at 60 frames a second.
// Run after a build: npm run bench:shelf
import { randomUUID } from 'node:crypto';
import { join } from 'node:path';
import { chromium } from '@playwright/test';
import { Sequelize } from 'sequelize';
import { machine, median, spread, writeSection } from './report.mjs';
import { chromiumOptions, startServer } from './server.mjs';
import { shortWav } from './sounds.mjs';

const SOURCES = 1000;
const MANY = 20_000;
const JOBS = 500;
const RUNS = 7;
/** Pictures of the screen while it scrolls. */
const PICTURES = 290;
/** Pixels from one to the next: as fast as a wheel turns, and as a bar is dragged over everything. */
const WHEEL = 150;

/** Copies rows, so that there are so many sources, and jobs of ten clips each: what is imported one by one takes long. */
async function fill(data) {
  const database = new Sequelize({ dialect: 'sqlite', storage: join(data, 'tambur.sqlite'), logging: false });
  const insert = async (table, rows) => {
    for (let at = 0; at < rows.length; at += 1000) {
      await database.getQueryInterface().bulkInsert(table, rows.slice(at, at + 1000));
    }
  };
  const [sources] = await database.query('SELECT * FROM sources');
  const copies = Array.from({ length: MANY - sources.length }, (_, n) => ({
    ...sources[n % sources.length],
    id: randomUUID(),
    key: randomUUID(),
    name: `Copy ${String(n).padStart(5, '0')}.wav`,
  }));
  await insert('sources', copies);
  const [[job]] = await database.query('SELECT * FROM jobs LIMIT 1');
  const jobs = Array.from({ length: JOBS - 1 }, (_, n) => ({ ...job, id: randomUUID(), title: `Job ${n}` }));
  await insert('jobs', jobs);
  const clips = jobs.flatMap(({ id: jobId }, k) =>
    Array.from({ length: 10 }, (_, n) => {
      const { id: sourceId, name } = copies[(10 * k + n) % copies.length];
      return { id: randomUUID(), jobId, sourceId, rank: `a${n}`, clip: JSON.stringify({ name }) };
    }),
  );
  await insert('clips', clips);
  await database.close();
}

/** What a person waits for at the shelf as it is: ms of each run, and of each picture while it scrolls. */
async function measure(url, word) {
  const [first, opened, searched, wheel, dragged] = [[], [], [], [], []];
  for (let run = 0; run < RUNS; run++) {
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
    const started = performance.now();
    await page.goto(url);
    await page.locator('main li h3').first().waitFor();
    first.push(performance.now() - started);
    opened.push(
      await page.evaluate(async () => {
        const started = performance.now();
        [...document.querySelectorAll('nav a')].find((link) => link.textContent === 'Shelf').click();
        while (document.querySelectorAll('[role=row]').length < 10) await new Promise(requestAnimationFrame);
        await new Promise(requestAnimationFrame);
        return performance.now() - started;
      }),
    );
    wheel.push(...(await page.evaluate(scroll, [PICTURES, WHEEL])));
    dragged.push(...(await page.evaluate(scroll, [PICTURES, null])));
    searched.push(
      await page.evaluate(async (word) => {
        const field = document.querySelector('input[type=search]');
        const started = performance.now();
        Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value').set.call(field, word);
        field.dispatchEvent(new Event('input', { bubbles: true }));
        while (document.querySelectorAll('[role=row]').length !== 2) await new Promise(requestAnimationFrame);
        return performance.now() - started;
      }, word),
    );
    await page.close();
  }
  return { first, opened, searched, wheel, dragged };
}

/** In the page: moves the table on with every picture of the screen, by so much or to its end. ms of each picture. */
async function scroll([pictures, pixels]) {
  const scroller = document.querySelector('[role=rowgroup]');
  scroller.scrollTop = 0;
  const step = pixels ?? Math.ceil(scroller.scrollHeight / pictures);
  const times = [];
  let before = await new Promise(requestAnimationFrame);
  for (let picture = 0; picture < pictures; picture++) {
    scroller.scrollTop += step;
    const now = await new Promise(requestAnimationFrame);
    times.push(now - before);
    before = now;
  }
  return times;
}

let server = await startServer();
for (let number = 0; number < SOURCES; number += 4) {
  await Promise.all(
    [0, 1, 2, 3].map(async (k) => {
      const name = `Bell ${String(number + k).padStart(4, '0')}.wav`;
      const answer = await fetch(`${server.url}/api/sources?name=${name}`, {
        method: 'POST',
        body: shortWav(number + k),
      });
      if (!answer.ok) throw new Error(await answer.text());
    }),
  );
}
const made = await fetch(`${server.url}/api/jobs`, {
  method: 'POST',
  headers: { 'Content-Type': 'application/json' },
  body: JSON.stringify({ title: 'Bells', sheet: 'loop-player' }),
});
if (!made.ok) throw new Error(await made.text());

const browser = await chromium.launch(chromiumOptions);
const few = await measure(server.url, 'bell 0777');
await server.stop({ keepsData: true });
await fill(server.data);
server = await startServer(server.data);
const many = await measure(server.url, 'copy 07777');
await browser.close();
await server.stop();

const late = (frames) => `${frames.filter((time) => time > 25).length} of ${frames.length}`;
const row = (words, tell, goal) => `| ${words} | ${tell(few)} | ${tell(many)} | ${goal} |`;
writeSection(
  'shelf',
  `## A shelf of ${SOURCES} sources, and of ${MANY}

Made by \`npm run bench:shelf\` on ${machine}, headless Chromium, ${RUNS} runs. Milliseconds: median (least to most). The larger one
has ${JOBS} jobs of ten clips.

| what a person waits for | ${SOURCES} | ${MANY} | goal |
|---|---|---|---|
${[
  row('from the address to the jobs', ({ first }) => spread(first), ''),
  row('from the click on Shelf to its rows', ({ opened }) => spread(opened), '1 000'),
  row('from a letter typed to the rows found', ({ searched }) => spread(searched), ''),
  row('one picture of the screen, the wheel turned fast', ({ wheel }) => median(wheel).toFixed(1), '16.7'),
  row('of them late (over 25 ms)', ({ wheel }) => late(wheel), ''),
  row('one picture, the bar dragged from the first row to the last', ({ dragged }) => median(dragged).toFixed(1), ''),
  row('of them late', ({ dragged }) => late(dragged), ''),
].join('\n')}
`,
);
