import { readFileSync } from 'node:fs';
import type { Page } from '@playwright/test';
import { choose } from './support/choose.ts';
import { scratch, wavBytes, writeFiles } from './support/files.ts';
import { expect, test } from './support/server.ts';

test.use({ permissions: ['microphone'] });

const fixture = (name: string) => readFileSync(`codecs/fixtures/files/${name}`);
const file = (name: string, buffer: Buffer) => ({ name, mimeType: 'application/octet-stream', buffer });
const drop = (page: Page, ...files: ReturnType<typeof file>[]) => page.getByLabel('Audio files').setInputFiles(files);
const row = (page: Page, name: string) => page.getByRole('row', { name: new RegExp(name.replace('.', '\\.')) });
const selected = (page: Page) => page.getByRole('complementary', { name: 'Selected' });

test.beforeEach(({ page }) => page.goto('/shelf'));

test('every format comes in at once; a bad file stops none; the summary counts', async ({ page }) => {
  const names = [
    'tone.wma',
    'tone.amr',
    'tone-alac.m4a',
    'tone-opus.webm',
    'tone-pcm.caf',
    'adpcm-ms.wav',
    'two-tracks.mpg',
  ];
  await drop(page, ...names.map((name) => file(name, fixture(name))), file('broken.flac', Buffer.from('fLaC')));
  for (const name of names) await expect(row(page, name)).toBeVisible();
  const incoming = page.getByRole('region', { name: 'Files coming in' });
  await expect(incoming.getByRole('status')).toHaveText('7 files in, 1 could not be used');
  await expect(incoming.getByRole('alert')).toContainText('The FLAC file is damaged or cut off');
  await incoming.getByRole('button', { name: 'Clear' }).click();
  await expect(incoming).toHaveCount(0);
});

test('the same bytes under another name are the same source, and that is said', async ({ page }) => {
  await drop(page, file('gong.wav', wavBytes(0.813)));
  await expect(row(page, 'gong.wav')).toBeVisible();
  await drop(page, file('copy of it.wav', wavBytes(0.813)));
  await expect(page.getByText('copy of it.wav is on the shelf already, as gong.wav')).toBeVisible();
  await expect(row(page, 'copy of it.wav')).toHaveCount(0);
});

// The server is shared with other tests: every sound here has a length of its own, so that it is not known already.
test('a whole folder comes in, without what systems hide in it', async ({ page }) => {
  const folder = scratch();
  writeFiles(folder, { 'gale.wav': wavBytes(0.413), 'hail.wav': wavBytes(0.313), '.hidden.wav': wavBytes(0.213) });
  await page.getByLabel('A folder').setInputFiles(folder);
  await expect(row(page, 'gale.wav')).toBeVisible();
  await expect(row(page, 'hail.wav')).toBeVisible();
  await expect(page.getByRole('region', { name: 'Files coming in' }).getByRole('status')).toHaveText('2 files in');
  await expect(row(page, 'hidden.wav')).toHaveCount(0);
});

test('facts in the same words as the command line; a wrong extension is said', async ({ page }) => {
  await drop(page, file('whistle.mp3', wavBytes(1.013)));
  await row(page, 'whistle.mp3').click();
  await expect(selected(page)).toContainText('Named .mp3, is WAV.');
  await expect(selected(page)).toContainText('1\u202f411.2 kbit/s, constant');
});

test('search, filter, several selected, rename and undo, delete refused and undone', async ({ page }) => {
  await page.getByRole('searchbox').fill('brake');
  await expect(page.getByRole('row')).toHaveCount(2);
  await row(page, 'brake-test.flac').click();
  // The list may still be on its way to what was searched for: what is selected is what is deleted.
  await expect(selected(page)).toContainText('brake-test.flac');
  await page.getByRole('button', { name: 'Delete' }).click();
  // Other tests, on the same server, may use it too at that moment.
  await expect(page.getByText(/brake-test\.flac is used by the clip .* remove .* first/)).toBeVisible();
  await page.getByRole('searchbox').press('Escape');

  await drop(
    page,
    file('siren one.wav', wavBytes(0.513)),
    file('siren two.wav', wavBytes(0.613)),
    file('siren three.wav', wavBytes(0.713)),
  );
  await expect(row(page, 'siren three.wav')).toBeVisible();
  await choose(page, /^Show/, 'In no job');
  await page.getByRole('searchbox').fill('siren');
  await page.getByRole('button', { name: 'Length' }).click();
  await row(page, 'siren one.wav').click();
  await row(page, 'siren three.wav').click({ modifiers: ['Shift'] });
  await expect(selected(page).getByRole('heading')).toHaveText('3 sources');
  await row(page, 'siren two.wav').click({ modifiers: ['Control'] });
  await expect(selected(page).getByRole('heading')).toHaveText('2 sources');
  await page.getByRole('button', { name: 'Delete' }).click();
  await expect(row(page, 'siren one.wav')).toHaveCount(0);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(row(page, 'siren one.wav')).toBeVisible();

  await row(page, 'siren two.wav').click();
  await page.getByRole('grid').press('F2');
  await page.getByLabel('Name', { exact: true }).fill('second.wav');
  await page.getByLabel('Name', { exact: true }).press('Enter');
  await page.getByRole('searchbox').fill('');
  await expect(row(page, 'second.wav')).toBeVisible();
});

test('a search as long as the field takes is answered, and a list that cannot be loaded again takes nothing away', async ({
  page,
}) => {
  await drop(page, file('pulley.wav', wavBytes(0.213)));
  await expect(row(page, 'pulley.wav')).toBeVisible();
  const search = page.getByRole('searchbox');
  await search.pressSequentially(`pulley ${'x'.repeat(250)}`, { delay: 0 });
  await expect(page.getByText('No source matches.')).toBeVisible();
  expect((await search.inputValue()).length).toBe(200);
  await search.fill('');

  await page.route('**/api/sources/list*', (route) => route.fulfill({ status: 500, json: {} }));
  await row(page, 'pulley.wav').click();
  await page.getByRole('grid').press('F2');
  await page.getByLabel('Name', { exact: true }).fill('sheave.wav');
  await page.getByLabel('Name', { exact: true }).press('Enter');
  await expect(row(page, 'sheave.wav')).toBeVisible();
  await expect(search).toBeVisible();

  await page.unroute('**/api/sources/list*');
  await page.evaluate(() => localStorage.setItem('tambur.shelf-sorting', '{"order":"colour","isDescending":1}'));
  await page.reload();
  await expect(page.getByRole('columnheader', { name: 'Added' })).toHaveAttribute('aria-sort', 'descending');
});

test('by keyboard: move, select, play, delete', async ({ page }) => {
  await drop(page, file('key.wav', wavBytes(2.513)));
  await page.getByRole('searchbox').fill('key.wav');
  const grid = page.getByRole('grid', { name: 'Sources' });
  await expect(page.getByRole('row')).toHaveCount(2);
  await grid.focus();
  await grid.press('ArrowDown');
  await expect(row(page, 'key.wav')).toHaveAttribute('aria-selected', 'true');
  await grid.press('Enter');
  await expect(page.getByRole('button', { name: 'Stop key.wav' })).toBeVisible();
  await grid.press('Enter');
  await expect(page.getByRole('button', { name: 'Play key.wav' })).toBeVisible();
  await grid.press('Delete');
  await expect(row(page, 'key.wav')).toHaveCount(0);
});

test('headerless bytes: the right reading stands first, can be heard, and becomes a source', async ({ page }) => {
  const samples = wavBytes(12, 1, 16_000).subarray(44);
  await drop(page, file('bare.raw', samples));
  await page.getByRole('button', { name: /Read as headerless/ }).click();
  const dialog = page.getByRole('dialog');
  const first = dialog.getByRole('radiogroup', { name: 'Likely readings' }).getByRole('radio').first();
  await expect(first).toContainText('16-bit signed PCM, mono');
  await expect(first).toBeChecked();
  await dialog.getByLabel('Sample rate').fill('16000');
  await dialog.getByLabel('Sample rate').press('Enter');
  await expect(dialog).toContainText('12.000 s, 192\u202f000 frames');
  await dialog.getByRole('button', { name: 'Listen' }).click();
  await expect(dialog.getByRole('button', { name: 'Stop' })).toBeVisible();
  await dialog.getByRole('button', { name: 'Use this reading' }).click();
  await row(page, 'bare.raw').click();
  await expect(selected(page)).toContainText('headerless');
  await expect(selected(page)).toContainText('12.000 s, 192\u202f000 frames');
});

test('of a video with two sounds the other one is a choice away', async ({ page }) => {
  await drop(page, file('second sound.mkv', fixture('two-tracks.mkv')));
  await row(page, 'second sound.mkv').click();
  await choose(selected(page), /^Sound, of 2 in the file/, /^2/);
  await expect(row(page, 'second sound.mkv')).toHaveCount(2);
  await expect(selected(page)).toContainText('48\u202f000 Hz');
});

test('on the bench another sound of the file is heard, not the one before', async ({ page }) => {
  // What is played is scheduled in a context of the sound's own rate, and the two sounds differ in it.
  await page.addInitScript(() => {
    const rates: number[] = [];
    Object.assign(window, { rates });
    const { start } = AudioBufferSourceNode.prototype;
    AudioBufferSourceNode.prototype.start = function (...when) {
      rates.push(this.buffer?.sampleRate ?? 0);
      start.apply(this, when);
    };
  });
  const lastPlayed = () => page.evaluate(() => (window as unknown as { rates: number[] }).rates.at(-1));
  const play = () => page.getByRole('button', { name: 'Play', exact: true }).click();
  await page.goto('/');
  await page.getByLabel('Audio files').setInputFiles(file('both sounds.mkv', fixture('two-tracks.mkv')));
  await page.getByRole('button', { name: 'All facts' }).click();
  await page.getByRole('radio', { name: 'Source', exact: true }).click();
  await play();
  await expect.poll(lastPlayed).toBe(44_100);

  await choose(page, /^Sound, of 2 in the file/, /^2/);
  await expect(page.getByText(/48\u202f000 Hz/).first()).toBeVisible();
  await expect(page.getByRole('button', { name: 'Play', exact: true })).toBeVisible();
  await play();
  await expect.poll(lastPlayed).toBe(48_000);
});

test('a long recording is split at its silences, changed by hand, and becomes clips of a job', async ({ page }) => {
  const word = wavBytes(0.8, 1, 16_000).subarray(44);
  const pause = Buffer.alloc(16_000 * 2 * 0.7);
  const bytes = Buffer.concat([wavBytes(0.8, 1, 16_000).subarray(0, 44), word, pause, word, pause, word]);
  bytes.writeUInt32LE(bytes.length - 44, 40);
  await drop(page, file('guard.wav', bytes));
  await row(page, 'guard.wav').click();
  await page.getByRole('button', { name: 'Find parts' }).click();
  const dialog = page.getByRole('dialog');
  await expect(dialog.getByRole('list', { name: 'Parts' }).getByRole('listitem')).toHaveCount(3);
  await dialog.getByRole('button', { name: 'Join part 2 with the next' }).click();
  await expect(dialog.getByRole('list', { name: 'Parts' }).getByRole('listitem')).toHaveCount(2);
  await dialog.getByRole('button', { name: 'Undo' }).click();
  await dialog.getByLabel('Name of the clips').fill('Guard');
  await choose(dialog, /^Job/, 'New job: Microcontroller, 8-bit DAC');
  await dialog.getByRole('button', { name: 'Make 3 clips' }).click();
  await page.getByRole('button', { name: 'Open', exact: true }).click();
  await expect(page.getByRole('button', { name: /^1 ?Guard 1/ })).toBeVisible();
  await expect(page.getByRole('button', { name: /^3 ?Guard 3/ })).toBeVisible();
});

test('the microphone is recorded after a countdown, and kept at its own rate', async ({ page }) => {
  await page.getByRole('button', { name: 'Record' }).click();
  const dialog = page.getByRole('dialog');
  await expect(dialog.getByRole('meter')).toBeVisible();
  await dialog.getByRole('button', { name: 'Record', exact: true }).click();
  await dialog.getByRole('button', { name: 'Stop' }).click({ delay: 1500 });
  await dialog.getByLabel('Name').fill('Station master');
  await dialog.getByRole('slider', { name: 'Start of the cut' }).press('Shift+ArrowRight');
  await dialog.getByRole('button', { name: 'Keep it' }).click();
  await row(page, 'Station master.wav').click();
  await expect(selected(page)).toContainText('24-bit signed PCM');
});

test('prompts are spoken, heard, and become a set of clips in one go', async ({ page }) => {
  await page.getByRole('button', { name: 'Speak' }).click();
  const dialog = page.getByRole('dialog');
  await dialog.getByRole('textbox').fill('Please hold the rail.\n\nNext cabin in five minutes.');
  await dialog.getByRole('button', { name: 'Hear Please hold the rail.' }).click();
  await expect(dialog.getByRole('button', { name: 'Stop Please hold the rail.' })).toBeVisible();
  await choose(dialog, /^Job/, 'New job: Desk phone ring tone');
  await dialog.getByRole('button', { name: 'Make clips' }).click();
  await page.getByRole('button', { name: 'Open', exact: true }).click();
  await expect(page.getByRole('button', { name: /Please hold the rail/ }).first()).toBeVisible();
  await expect(page.getByRole('button', { name: /Next cabin in five minutes/ }).first()).toBeVisible();
  await page.goto('/shelf');
  await expect(row(page, 'Please hold the rail.wav')).toBeVisible();
});

test('on the bench: from the shelf, and all facts of the source', async ({ page }) => {
  await page.goto('/');
  await page.getByRole('link', { name: 'Cabin panel', exact: true }).click();
  await page.getByRole('button', { name: 'Add audio' }).click();
  await page.getByRole('menuitem', { name: 'From the shelf …' }).click();
  const dialog = page.getByRole('dialog');
  await dialog.getByRole('searchbox').fill('winch');
  await dialog.getByRole('row', { name: /winch-start/ }).click();
  await dialog.getByRole('button', { name: 'Add 1 clip' }).click();
  await expect(page.getByLabel('Name of the clip')).toHaveValue('Winch start');
  await page.getByRole('button', { name: 'All facts' }).click();
  await expect(page.getByText('true peak')).toBeVisible();
  await page.getByRole('button', { name: 'Undo' }).click();
});

test('a cancelled import leaves nothing', async ({ page, server }) => {
  const [path] = writeFiles(scratch(), { 'endless.wav': wavBytes(60) });
  // Slow enough to be caught: the page's own connection is throttled.
  const client = await page.context().newCDPSession(page);
  await client.send('Network.enable');
  await client.send('Network.emulateNetworkConditions', {
    offline: false,
    latency: 0,
    downloadThroughput: -1,
    uploadThroughput: 500_000,
  });
  await page.getByLabel('Audio files').setInputFiles(path);
  await page.getByRole('button', { name: 'Cancel endless.wav' }).click();
  await client.send('Network.emulateNetworkConditions', {
    offline: false,
    latency: 0,
    downloadThroughput: -1,
    uploadThroughput: -1,
  });
  await expect(page.getByRole('region', { name: 'Files coming in' })).toHaveCount(0);
  await expect
    .poll(async () =>
      (await (await page.request.get(`${server.url}/api/sources`)).json()).map(({ name }: { name: string }) => name),
    )
    .not.toContain('endless.wav');
});
