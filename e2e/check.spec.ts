import { execFileSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import type { Locator } from '@playwright/test';
import { choose } from './support/choose.ts';
import { scratch, tambur, wavBytes, writeFiles } from './support/files.ts';
import { openStation } from './support/jobs.ts';
import { expect, test } from './support/server.ts';

/** What the page has no decoder for. */
const wma = new URL('../codecs/fixtures/files/tone.wma', import.meta.url);

const file = (name: string, buffer: Buffer) => ({ name, mimeType: '', buffer });

test('any file is checked against a sheet, and one that breaks it is made to fit', async ({ page }) => {
  await page.goto('/');
  await page.getByRole('link', { name: 'Check a file' }).click();
  await choose(page, /^Device/, 'Telephone system message');
  await page
    .getByLabel('Files to check')
    .setInputFiles([
      file('1234.wav', wavBytes(1.3311)),
      file('good morning.wav', wavBytes(0.871, 1, 8000)),
      file('notes.wav', Buffer.from('Trains run every ten minutes.')),
    ]);
  const entry = (name: string) => page.getByRole('listitem').filter({ has: page.getByRole('heading', { name }) });
  await expect(entry('1234.wav')).toContainText('does not meet the sheet');
  await expect(entry('1234.wav').getByText('mend: put a letter into it')).toBeVisible();
  await expect(entry('1234.wav').getByText('mend: resample it to 8\u202f000 Hz')).toBeVisible();
  await expect(entry('good morning.wav')).toContainText('use only letters, digits, hyphen and underscore');
  await expect(entry('notes.wav').getByRole('alert')).toContainText('of no known kind');

  // The same files, for another device; nothing is dropped again.
  await choose(page, /^Device/, 'Desk phone ring tone');
  await expect(entry('1234.wav').getByText('mend: encode it as mu-law')).toBeVisible();
  // Bare samples are now read as that device reads them, and nobody can vouch for them.
  await expect(entry('notes.wav')).toContainText('does not meet the sheet');
  await expect(entry('notes.wav').getByRole('alert')).toHaveCount(0);

  await entry('1234.wav').getByRole('button', { name: 'Make it fit' }).click();
  await expect(page.getByRole('heading', { name: 'Target sheet' })).toBeVisible();
  await expect(page.getByTestId('result-lane')).toHaveAttribute('data-current', 'true');
  await expect(page.getByTestId('target-sheet').getByText('meets', { exact: true })).toHaveCount(8);
});

test('what the page cannot decode is read on the server, and nothing of it is kept', async ({
  page,
  request,
  server,
}) => {
  const shelf = async () => (await (await request.get('/api/sources')).json()).length;
  const before = await shelf();
  await page.goto('/check?target=portable-player');
  await page.getByLabel('Files to check').setInputFiles(file('tone.wma', await readFile(wma)));
  const entry = page.getByRole('listitem').filter({ has: page.getByRole('heading', { name: 'tone.wma' }) });
  await expect(entry).toContainText('does not meet the sheet');
  await expect(entry.getByText('mend: write it as MP3')).toBeVisible();
  expect(await shelf()).toBe(before);
  for (const folder of ['sources', 'uploads']) {
    expect(
      readdirSync(join(server.data, folder)).filter((name) => name.startsWith('look') || name.endsWith('.part')),
    ).toEqual([]);
  }
  expect(readdirSync(join(server.data, 'uploads'))).toEqual([]);
  const damaged = await request.post('/api/check?name=x.wma', {
    data: Buffer.from((await readFile(wma)).subarray(0, 900)),
  });
  expect(damaged.status()).toBe(422);
});

test('a card in a ZIP is checked as a whole, each file as what it is', async ({ page }) => {
  const folder = scratch();
  const source = join(folder, 'bell.wav');
  writeFileSync(source, wavBytes(0.7));
  expect(tambur('make', '--target', 'desk-phone-ring-tone', source, '--out', join(folder, 'card')).code).toBe(0);
  const list = join(folder, 'card', 'ring-tones.txt');
  writeFileSync(list, `${readFileSync(list, 'utf8')}Winch\twinch.raw\n`);
  const zip = join(folder, 'card.zip');
  const inCard = ['bell.raw', 'ring-tones.txt'].map((name) => join(folder, 'card', name));
  execFileSync('python3', ['-m', 'zipfile', '-c', zip, ...inCard]);
  await page.goto('/check?target=desk-phone-ring-tone');
  await page.getByLabel('Files to check').setInputFiles(zip);
  const card = page.getByRole('region', { name: 'card.zip' });
  const entry = (name: string) => card.getByRole('listitem').filter({ has: page.getByRole('heading', { name }) });
  await expect(entry('bell.raw')).toContainText('meets the sheet');
  await expect(entry('ring-tones.txt')).toContainText('a list file of the device');
  await expect(entry('ring-tones.txt')).toContainText('2 rows; without a file: winch.raw');
  await page.getByLabel('Files to check').setInputFiles(file('broken.zip', (await readFile(zip)).subarray(0, 60)));
  await expect(page.getByText('broken.zip is damaged or not a whole ZIP file')).toBeVisible();
});

test('of a card with many files what needs work comes first, each a line until it is opened; reading can be stopped', async ({
  page,
}) => {
  const folder = scratch();
  const [fits, wrong] = [wavBytes(2, 1, 44_100, 0.9), wavBytes(0.1, 1, 16_000)];
  const names = Array.from({ length: 120 }, (_, i) => `${1000 + i}.wav`);
  writeFiles(folder, Object.fromEntries(names.map((name, i) => [name, i % 60 === 59 ? wrong : fits])));
  writeFiles(folder, { 'a note.txt': Buffer.from('Not for the device.') });
  const zip = join(folder, 'card.zip');
  execFileSync('python3', ['-m', 'zipfile', '-c', zip, ...[...names, 'a note.txt'].map((name) => join(folder, name))]);
  await page.goto('/check?target=loop-player');
  await page.getByLabel('Files to check').setInputFiles(zip);
  const card = page.getByRole('region', { name: 'card.zip' });
  await expect(card.getByRole('status')).toContainText(/^1 cannot be read, 2 to be mended, .*1\d\d/, {
    timeout: 90_000,
  });
  await expect(card.getByRole('listitem')).toHaveCount(100);
  const headings = card.getByRole('heading', { level: 3 });
  expect((await headings.allTextContents()).slice(0, 4)).toEqual(['a note.txt', '1059.wav', '1119.wav', '1000.wav']);
  const row = card.getByRole('listitem').filter({ hasText: '1059.wav' });
  await expect(row.getByRole('table')).toBeHidden();
  await row.getByRole('button', { name: '1059.wav' }).click();
  await expect(row.getByRole('table')).toContainText('resample it to 44');
  await card.getByRole('button', { name: 'Show 21 more' }).click();
  await expect(headings).toHaveCount(121);

  // The server does not answer, and nobody waits for it.
  await page.route('**/api/check*', () => undefined);
  await page.getByLabel('Files to check').setInputFiles(file('slow.wma', await readFile(wma)));
  await page.getByRole('button', { name: 'Stop' }).click();
  await expect(page.getByText('slow.wma')).toHaveCount(0);
});

test('a file that is still being read when another is dropped is read to its end', async ({ page }) => {
  // A variant makes its sheet again each time; what is read for it is still for the same device.
  await page.goto('/check?target=desk-phone-ring-tone&variant=older-sets');
  const drop = page.getByLabel('Files to check');
  await drop.setInputFiles([file('first.wav', wavBytes(20, 2))]);
  await drop.setInputFiles([file('second.wav', wavBytes(0.5))]);
  for (const name of ['first.wav', 'second.wav']) {
    await expect(page.getByRole('listitem').filter({ hasText: name })).toContainText('does not meet the sheet');
  }
  await page.goto('/check?target=desk-phone-ring-tone&variant=gone');
  await expect(page.getByRole('alert')).toContainText('has no variant "gone"');
});

test('every sheet can be read, in each variant, and a file tried against it', async ({ page }) => {
  await page.goto('/');
  await page.getByRole('link', { name: 'Targets' }).click();
  // Sheets of the user's own stand in a list below.
  const shipped = page.getByRole('navigation', { name: 'Target sheets' }).getByRole('list').first();
  await expect(shipped.getByRole('link')).toHaveCount(17);
  await shipped.getByRole('link', { name: 'Two-way radio prompt' }).click();
  const sheet = page.getByRole('article');
  await expect(sheet.getByText('at most 56\u202f000 bytes')).toBeVisible();
  await expect(sheet.getByText('advised', { exact: true })).toHaveCount(2);
  await expect(sheet.getByText('at most 3.497 s, 27\u202f978 frames')).toBeVisible();
  await page.getByLabel('File to try').setInputFiles(file('prompt.wav', wavBytes(4.1731)));
  await expect(page.getByRole('region', { name: 'Try a file' })).toContainText('mend: cut 0.173 s');

  await shipped.getByRole('link', { name: 'Show controller track' }).click();
  await expect(sheet.getByText('320 kbit/s, constant')).toBeVisible();
  await page.getByRole('radio', { name: 'older firmware' }).click();
  await expect(sheet.getByText('128 kbit/s, constant')).toBeVisible();
  await page.getByRole('button', { name: 'Start a job' }).click();
  await expect(page.getByRole('button', { name: /^Variant of the sheet/ })).toContainText('older firmware');
  await page.goto('/targets/toaster');
  await expect(page.getByText('There is no sheet with that name.')).toBeVisible();
});

test('a sheet is duplicated, edited, used, exported, imported and deleted', async ({ page }) => {
  await page.goto('/targets/microcontroller-8-bit-dac');
  await page.getByRole('button', { name: 'Duplicate' }).click();
  await expect(page.getByRole('heading', { name: 'Edit a target sheet' })).toBeVisible();
  await page.getByLabel('Name', { exact: true }).fill('Spare cabin board');
  await page.getByLabel('Name', { exact: true }).press('Enter');
  await expect(page.getByText('not saved yet')).toBeVisible();
  const row = (sentence: RegExp) => page.getByRole('listitem').filter({ hasText: sentence }).first();

  // The clock helper: 20 MHz and a prescaler of 8 make 16 025.641 Hz with 156 steps, 2.8 cents too high.
  await choose(row(/^sample rate/), /^With anything else it/, 'does what is not known');
  await row(/^sample rate/)
    .getByRole('button', { name: 'Rates of a timer' })
    .click();
  const clock = page.getByRole('region', { name: 'Rates of a timer' });
  await clock.getByRole('textbox', { name: 'Clock', exact: true }).fill('20000000');
  await clock.getByRole('textbox', { name: 'Clock', exact: true }).press('Enter');
  await expect(clock.getByRole('row', { name: /16.?025\.64 Hz 8 155 \+25\.64 Hz \+1603 \+2\.77/ })).toBeVisible();
  await clock.getByRole('button', { name: /Use 16.?025/ }).click();
  await expect(page.getByRole('article').getByText('16\u202f025.64 Hz', { exact: true })).toBeVisible();

  // A requirement that is not complete says so, and cannot be saved.
  const size = row(/^set size/).getByRole('textbox');
  await size.fill('much');
  await expect(page.getByRole('alert')).toContainText('Not complete yet');
  await expect(page.getByRole('button', { name: 'Save' })).toBeDisabled();
  await size.fill('32768');
  await choose(page, /^Add a requirement/, 'number of files');
  await expect(page.getByRole('article').getByText('at most 8 files')).toBeVisible();
  await page.getByRole('switch', { name: /^The device has places/ }).click();
  await page.getByRole('textbox', { name: 'Called' }).fill('button');
  await expect(page.getByRole('article').getByText('button 1 and on')).toBeVisible();
  await page.getByLabel('Name', { exact: true }).press('Control+s');
  await expect(page.getByText('Spare cabin board saved')).toBeVisible();
  await expect(page.getByRole('button', { name: 'Save' })).toBeDisabled();
  await page.getByRole('button', { name: 'Close' }).click();
  await expect(page.getByRole('heading', { name: 'Spare cabin board' })).toBeVisible();

  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('link', { name: 'Export' }).click(),
  ]);
  const text = await readFile(await download.path(), 'utf8');
  expect(JSON.parse(text)).toMatchObject({ name: 'Spare cabin board' });

  // A broken file names its line; a whole one comes in under a free name.
  await page.getByLabel('Sheet files').setInputFiles(file('broken.json', Buffer.from(text.replace('"pcm-u8"', '8'))));
  await expect(page.getByRole('dialog')).toContainText(/broken\.json, line \d+: player\.assumes\.encoding/);
  await page.getByRole('button', { name: 'Close' }).click();
  await page.getByLabel('Sheet files').setInputFiles(file('whole.json', Buffer.from(text)));
  await expect(page).toHaveURL(/-2$/);
  await page.getByRole('button', { name: 'Delete' }).click();
  await page.getByRole('dialog').getByRole('button', { name: 'Delete' }).click();
  await expect(page.getByText('Spare cabin board deleted')).toBeVisible();

  // In use: the form says which job changes, and the sheet cannot be deleted.
  await page.goto('/');
  await page.getByRole('radio', { name: 'Spare cabin board' }).click();
  await page.getByRole('button', { name: 'Start without audio' }).click();
  await expect(page.getByText('for Spare cabin board')).toBeVisible();
  await page.getByRole('link', { name: 'Targets' }).click();
  await page.getByRole('link', { name: 'Spare cabin board' }).click();
  await page.getByRole('button', { name: 'Edit' }).click();
  await expect(page.getByText('saving changes what Spare cabin board will be built for')).toBeVisible();
  await page.getByRole('button', { name: 'Close' }).click();
  await page.getByRole('button', { name: 'Delete' }).click();
  await page.getByRole('dialog').getByRole('button', { name: 'Delete' }).click();
  await expect(page.getByText('is the sheet of Spare cabin board')).toBeVisible();
});

test('a new sheet is written by the keyboard alone, and what the device does with anything else goes with it', async ({
  page,
}) => {
  await page.goto('/targets');
  await page.getByRole('button', { name: 'New sheet' }).press('Enter');
  await expect(page.getByRole('heading', { name: 'Edit a target sheet' })).toBeVisible();
  const type = async (label: string, text: string) => {
    await page.getByLabel(label, { exact: true }).fill(text);
    await page.getByLabel(label, { exact: true }).press('Enter');
  };
  const pick = async (button: Locator, letters: string) => {
    await button.press(' ');
    await expect(page.getByRole('listbox')).toBeFocused();
    // Letters typed within a third of a second after others are taken for one word with those.
    await expect(async () => {
      await page.keyboard.type(letters);
      const reached = page.locator('[role=option][data-focus]');
      await expect(reached).toHaveText(new RegExp(`^${letters}`), { timeout: 500 });
    }).toPass();
    await page.keyboard.press('Enter');
    await expect(page.getByRole('listbox')).toHaveCount(0);
  };
  const ask = (title: string) => pick(page.getByRole('button', { name: /^Add a requirement/ }), title);
  const sheet = page.getByRole('article');
  await type('Name', 'Waiting room gong');
  await ask('container');
  await expect(sheet.getByText('WAV', { exact: true })).toBeVisible();
  await ask('encoding');
  const encoding = page.locator('[data-kind=encoding]');
  await pick(encoding.getByRole('button', { name: /one more/ }), '8-bit unsigned');
  await encoding.getByRole('button', { name: /^Without 16-bit/ }).press('Enter');
  await expect(sheet.getByText('8-bit unsigned PCM', { exact: true })).toBeVisible();
  await ask('sample rate');
  // What comes next is where the keys go.
  await expect(page.locator('[data-kind=sample-rate]').getByRole('textbox').first()).toBeFocused();
  await page.keyboard.press('Control+a');
  await page.keyboard.type('22050');
  await page.keyboard.press('Enter');
  await ask('channels');
  await ask('duration');
  await page
    .locator('[data-kind=duration]')
    .getByRole('textbox', { name: /^At most/ })
    .fill('6');
  await page.keyboard.press('Enter');
  await expect(sheet).toContainText('at most 6.000 s');
  await expect(sheet.getByText('22\u202f050 Hz', { exact: true })).toBeVisible();
  await expect(sheet.getByText('mono', { exact: true })).toBeVisible();

  // What the device does with other rates: it follows then what it asks, and nothing is written twice.
  await pick(
    page.locator('[data-kind=sample-rate]').getByRole('button', { name: /^With anything else it/ }),
    'refuses',
  );
  await expect(sheet).toContainText('plays 22\u202f050 Hz as stated and refuses other rates');
  await pick(page.locator('[data-kind=duration]').getByRole('button', { name: /^With anything else it/ }), 'cuts');
  await expect(
    page.locator('[data-kind=duration]').getByRole('button', { name: /^With anything else it/ }),
  ).toBeFocused();
  await page.keyboard.press('Control+s');
  await expect(page.getByText('Waiting room gong saved')).toBeVisible();
  const { requirements, player } = await (await page.request.get('/api/targets/new-sheet/file')).json();
  expect(requirements.map(({ kind }: { kind: string }) => kind)).toEqual(['container', 'encoding', 'channels']);
  expect(player).toEqual({
    'plays-rates': { anyOf: [22_050] },
    'longest-sound': { seconds: 6, beyond: 'cuts' },
  });
  await page.request.delete('/api/targets/new-sheet');
});

test('an impossible fit shows ways out with their figures, and one click takes one', async ({ page, request }) => {
  const sheet = {
    id: 'spare-board',
    name: 'Spare board',
    about: '',
    naming: { separator: '_' },
    requirements: [
      { key: 'container', kind: 'container', anyOf: ['headerless'] },
      { key: 'encoding', kind: 'encoding', anyOf: ['pcm-s16le', 'ima-adpcm-low'] },
      { key: 'sample-rate', kind: 'sample-rate', anyOf: [16_000, 8000] },
      { key: 'channels', kind: 'channels', anyOf: [1] },
      { key: 'file-size', kind: 'file-size', most: 40_000 },
    ],
  };
  expect((await request.post('/api/targets', { data: { sheet } })).status()).toBe(201);
  await page.goto('/');
  await page.getByRole('radio', { name: 'Spare board' }).click();
  await page.getByLabel('Audio files').setInputFiles(file('long bell.wav', wavBytes(2.1173)));
  const obstacle = page.getByTestId('target-sheet').getByRole('alert');
  await expect(obstacle).toContainText(
    'It is 0.867 s too long: the sheet allows 40\u202f000 bytes, in effect 1.250 s.',
  );
  const ways = obstacle.getByRole('button');
  await expect(ways).toHaveText([
    /^bare IMA ADPCM, low nibble first: fits with 2\.88\d s to spare$/,
    /^8\u202f000 Hz instead of 16\u202f000 Hz, loses .*: fits with 0\.38\d s to spare$/,
    /^Cut 0\.867 s off the end$/,
    /^Cut 0\.867 s off the start$/,
  ]);
  await ways.first().click();
  await expect(obstacle).toHaveCount(0);
  await expect(page.getByTestId('result-lane')).toHaveAttribute('data-current', 'true');
  await expect(page.getByTestId('target-sheet').getByText('breaks')).toHaveCount(0);
});

test('compressed files are made in the page and on the server, byte for byte the same', async ({ page }) => {
  for (const [device, name] of [
    ['Mobile ring tone', 'bell-tone.m4a'],
    ['Show controller track', 'bell-tone.mp3'],
    ['Archive copy', 'bell-tone.flac'],
  ] as const) {
    await page.goto('/');
    await page.getByRole('radio', { name: device }).click();
    await page.getByLabel('Audio files').setInputFiles(file('bell tone.wav', wavBytes(1.7717, 2)));
    await expect(page.getByTestId('result-lane')).toHaveAttribute('data-current', 'true');
    await openStation(page, 'Wrap');
    const hash = (await page.getByTestId('fingerprint').textContent()) ?? '';
    expect(hash).toMatch(/^[0-9a-f]{64}$/);
    await page.getByRole('button', { name: 'Build set' }).click();
    await expect(page.getByRole('link', { name: /Download the set/ })).toBeVisible();
    const link = page
      .getByRole('link', { name: new RegExp(`Download ${name}`) })
      .or(page.locator(`a[href$="${name}"]`));
    const [download] = await Promise.all([page.waitForEvent('download'), link.first().click()]);
    const bytes = await readFile(await download.path());
    expect(createHash('sha256').update(bytes).digest('hex')).toBe(hash);
  }
});
