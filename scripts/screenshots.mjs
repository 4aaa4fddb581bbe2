// Takes the pictures of docs/screenshots from the demo data. Run: npm run build && npm run screenshots -- [names of some]
import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { chromium } from '@playwright/test';
import { chromiumOptions, startServer } from '../bench/server.mjs';

const server = await startServer(undefined, { isEmpty: false });
const { url } = server;
const browser = await chromium.launch(chromiumOptions);

const wanted = process.argv.slice(2);

async function picture(name, { width = 1280, height = 800, dark = false }, go) {
  if (wanted.length && !wanted.includes(name)) return;
  const page = await browser.newPage({ viewport: { width, height }, colorScheme: dark ? 'dark' : 'light' });
  await page.goto(url);
  await page.getByRole('heading', { name: 'Start a job' }).waitFor();
  await go(page);
  await page.evaluate(() => document.activeElement?.blur());
  await page.waitForTimeout(700);
  await page.screenshot({ path: `docs/screenshots/${name}.png` });
  await page.close();
}

const open = async (page, job, clip) => {
  await page.getByRole('link', { name: job, exact: true }).click();
  await page.locator('[data-testid=result-lane]').waitFor();
  // A small window shows one part of the bench at a time.
  const clips = page.getByRole('navigation', { name: 'Parts of the bench' }).getByRole('button', { name: /^Clips/ });
  if (await clips.isVisible()) await clips.click();
  await page.getByRole('button', { name: new RegExp(`^\\d+ ${clip}`) }).click();
  await page.locator('[data-testid=result-lane][data-current=true]').waitFor();
};

await picture('bench', {}, (page) => open(page, 'Cabin panel', 'Doors closing'));
await picture('bench-dark', { dark: true }, async (page) => {
  await open(page, 'Station desk phones', 'Summit tune');
  await page.locator('body').press('3');
});
await picture('bench-narrow', { width: 390, height: 844 }, (page) => open(page, 'Cabin panel', 'Departure chime'));
await picture('delivery', {}, async (page) => {
  await open(page, 'Cabin panel', 'Doors closing');
  await page.getByRole('button', { name: 'Build set' }).click();
  await page.getByRole('link', { name: /Download the set/ }).waitFor();
  await page.getByRole('tab', { name: 'Findings' }).waitFor();
});
/** A job for the module in the ticket hut, whose numbers are its buttons. */
const hut = async (page) => {
  const call = async (path, data) => {
    const answer = data ? await page.request.post(url + path, { data }) : await page.request.get(url + path);
    return answer.json();
  };
  const { ids } = await call('/api/sources/list?search=&filter=all&order=name&descending=false');
  const { id } = await call('/api/jobs', { title: 'Ticket hut, ground floor', sheet: 'numbered-sound-module' });
  // The first sources by name.
  const names = [
    'Brake test',
    'Departure chime',
    'Doors closing',
    'Enquiry line',
    'Gate buzzer',
    'Guard announcements',
  ];
  const clips = names.map((name, i) => ({ name, pieces: [{ source: ids[i], gapMs: 0 }] }));
  await call(`/api/jobs/${id}/clips`, { clips });
  await page.goto(`${url}/jobs/${id}/set`);
  await page.getByRole('button', { name: 'Doors closing at another place too' }).click();
  await page.getByLabel('Place of Guard announcements').fill('9');
  await page.getByLabel('Place of Guard announcements').press('Enter');
  await page.getByLabel('Place of Guard announcements').waitFor();
};
await picture('set', {}, hut);
await picture('bytes', { height: 900, dark: true }, async (page) => {
  await hut(page);
  await page.getByRole('link', { name: 'Bench' }).click();
  await page.getByRole('button', { name: 'Build set' }).click();
  await page.getByRole('button', { name: 'Show 0001.wav' }).click();
  await page.getByRole('tab', { name: 'Bytes' }).click();
  await page.locator('[data-offset="25"]').hover();
});
const station = async (page, key) => {
  await page.locator('body').press(key);
  await page.locator('#station').waitFor();
};
/** The end of the opened station in sight. */
const toTheEnd = async (page) => {
  await page.waitForTimeout(1500);
  await page.evaluate(() => document.querySelector('#station').scrollTo(0, 1e6));
};
await picture('rate', { width: 1680, height: 1000 }, async (page) => {
  await open(page, 'Cabin panel', 'Departure chime');
  await station(page, '3');
  await page.getByRole('img', { name: /^Spectrum; above/ }).waitFor();
  await toTheEnd(page);
});
await picture('compare', { height: 900 }, async (page) => {
  await open(page, 'Cabin panel', 'Doors closing');
  await station(page, '6');
  await page.getByRole('button', { name: 'Compare what else there is' }).click();
  await page.getByText('being made').first().waitFor({ state: 'detached' });
  // On the button a space would close it again.
  await page.evaluate(() => document.activeElement?.blur());
  await page.keyboard.press('2');
  await page.keyboard.press('Space');
  await toTheEnd(page);
});
await picture('targets', {}, async (page) => {
  await page.goto(`${url}/targets/two-way-radio-prompt`);
  await page.getByRole('article').waitFor();
});
// A card as somebody has copied it together: one tone is missing, and one is not in the list.
const folder = mkdtempSync(join(tmpdir(), 'card-'));
const card = join(folder, 'card');
execFileSync('./tambur', [
  'make',
  'demo/sounds/platform-bell.flac',
  'demo/sounds/upper-station.ogg',
  '--target',
  'desk-phone-ring-tone',
  '--out',
  card,
]);
const list = join(card, 'ring-tones.txt');
writeFileSync(list, readFileSync(list, 'utf8').replaceAll('upper-station', 'lower-station'));
const cardFiles = ['ring-tones.txt', 'platform-bell.raw', 'upper-station.raw'].map((name) => join(card, name));
execFileSync('python3', ['-m', 'zipfile', '-c', join(folder, 'desk-phones.zip'), ...cardFiles]);
await picture('check', {}, async (page) => {
  await page.goto(`${url}/check?target=desk-phone-ring-tone`);
  await page.getByLabel('Files to check').setInputFiles(join(folder, 'desk-phones.zip'));
  await page.getByRole('heading', { name: 'upper-station.raw' }).waitFor();
});
/** Builds a demo job and puts it into its device. */
const tryOut = async (page, job, clip) => {
  await open(page, job, clip);
  await page.getByRole('button', { name: 'Build set' }).click();
  await page.getByRole('link', { name: 'Try it out' }).click();
  await page.getByRole('region', { name: 'What happened' }).waitFor();
};
await picture('try-out', {}, async (page) => {
  await tryOut(page, 'Station desk phones', 'Platform bell');
  await page.getByRole('button', { name: 'Hear Brake test' }).click();
});
await picture('try-out-module', { dark: true }, async (page) => {
  await tryOut(page, 'Ticket hut', 'Chime');
  await page.getByRole('button', { name: 'Next' }).click();
});
/** The guards' card, on which five things are wrong. */
const guards = async (page) => {
  await page.goto(`${url}/try`);
  await page.getByRole('button', { name: /guards.* card/ }).click();
  await page.getByRole('button', { name: /^File/ }).click();
  await page.getByRole('option', { name: 'upper-station.wav' }).click();
};
await picture('symptoms', { height: 900 }, async (page) => {
  await guards(page);
  await page.getByRole('button', { name: 'Too slow and too low' }).click();
  await page.getByText('It was made for another rate').scrollIntoViewIfNeeded();
  await page.evaluate(() => window.scrollTo(0, 1e6));
});
await picture('listening', { width: 390, height: 844 }, async (page) => {
  await guards(page);
  await page
    .getByLabel('A recording of the device')
    .setInputFiles('web/public/try-out/upper-station-on-a-handheld.wav');
  await page.getByText('It played the file at another rate').waitFor();
  await page.evaluate(() => window.scrollTo(0, 1e6));
});
await picture('jobs', {}, async () => {});
const shelf = async (page) => {
  await page.getByRole('link', { name: 'Shelf' }).click();
  await page.getByRole('grid').waitFor();
};
await picture('shelf', {}, async (page) => {
  await shelf(page);
  await page.getByRole('row', { name: /doors-closing/ }).click();
});
await picture('headerless', {}, async (page) => {
  await shelf(page);
  // The buzzer of the demo, an octave higher: bytes that are not on the shelf yet.
  const buffer = readFileSync('demo/sounds/gate-buzzer.raw').filter((_, i) => i % 2 === 0);
  await page
    .getByLabel('Audio files')
    .setInputFiles({ name: 'gate-chime.raw', mimeType: 'application/octet-stream', buffer });
  await page.getByRole('button', { name: /Read as headerless/ }).click();
  await page.getByRole('radiogroup', { name: 'Likely readings' }).waitFor();
});

// A sheet of the railway's own, for a board of which half the memory is taken.
const {
  isOwn: _,
  usedBy: __,
  words: ____,
  player: { 'plays-at': ___, holds: _____, ...player },
  ...board
} = (await (await fetch(`${url}/api/targets`)).json()).find(({ id }) => id === 'microcontroller-8-bit-dac');
const sheet = {
  ...board,
  variants: [],
  player: { ...player, holds: { bytes: 32_768 } },
  id: 'spare-cabin-board',
  name: 'Spare cabin board',
  about: 'The board in the spare cabin: slower rates will do, and half of its memory is taken.',
  requirements: [...board.requirements, { key: 'sample-rate', kind: 'sample-rate', anyOf: [16_000, 11_025, 8000] }],
  blanks: board.blanks.map((blank) => ({ ...blank, usual: 32_768 })),
};
await fetch(`${url}/api/targets`, {
  method: 'POST',
  headers: { 'content-type': 'application/json' },
  body: JSON.stringify({ sheet }),
});
await picture('edit-sheet', { height: 1000 }, async (page) => {
  await page.goto(`${url}/targets/spare-cabin-board/edit`);
  await page.getByRole('button', { name: 'Rates of a timer' }).click();
  await page.getByRole('region', { name: 'Rates of a timer' }).waitFor();
});
await picture('ways-out', {}, async (page) => {
  await page.getByRole('radio', { name: 'Spare cabin board' }).click();
  await page
    .getByLabel('Audio files')
    .setInputFiles(['demo/sounds/winch-start.flac', 'demo/sounds/departure-chime.flac']);
  await page.getByRole('button', { name: /^\d+ Winch start/ }).click();
  await page.getByTestId('target-sheet').getByRole('alert').waitFor();
  await page.locator('[data-testid=result-lane][data-current=true]').waitFor();
});

await browser.close();
await server.stop();
rmSync(folder, { recursive: true, force: true });
