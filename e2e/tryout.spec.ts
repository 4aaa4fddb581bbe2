import { execFileSync } from 'node:child_process';
import { readdirSync, readFileSync, statSync } from 'node:fs';
import { join } from 'node:path';
import AxeBuilder from '@axe-core/playwright';
import type { Page } from '@playwright/test';
import { scratch, tambur, wavBytes, writeFiles } from './support/files.ts';
import { expect, test } from './support/server.ts';

/** Files of a folder and of those below it, as they are dropped. */
function filesIn(folder: string): { name: string; mimeType: string; buffer: Buffer }[] {
  return readdirSync(folder).flatMap((name) => {
    const path = join(folder, name);
    return statSync(path).isDirectory() ? filesIn(path) : [{ name, mimeType: '', buffer: readFileSync(path) }];
  });
}

/** What is made of a sound for a sheet. */
function madeFor(target: string, ...more: string[]): string {
  const folder = scratch();
  writeFiles(folder, { 'bell.wav': wavBytes(0.8, 2, 44_100) });
  const out = join(folder, 'card');
  const { code, stderr } = tambur('make', '--target', target, join(folder, 'bell.wav'), '--out', out, ...more);
  if (code !== 0) throw new Error(stderr);
  return out;
}

const putIn = async (page: Page, target: string, folder: string) => {
  await page.goto(`/try?target=${target}`);
  await page.getByLabel('A card to try').setInputFiles(filesIn(folder));
};
const log = (page: Page) => page.getByRole('region', { name: 'What happened' });

/** For each face a device that has it, and the keys that play something on it. */
const faces: readonly (readonly [string, string, (page: Page) => Promise<void>])[] = [
  ['list', 'portable-player', (page) => page.getByRole('button', { name: /^Hear / }).press('Enter')],
  [
    'number keys',
    'numbered-sound-module',
    (page) => page.getByRole('button', { name: 'Play', exact: true }).press('Enter'),
  ],
  ['pads', 'percussion-pad-sample', (page) => page.getByRole('button', { name: 'Strike pad 1 hard' }).press(' ')],
  [
    'channels',
    'two-way-radio-prompt',
    (page) => page.getByRole('button', { name: 'Let it say the channel' }).press('Enter'),
  ],
  ['switch', 'transmitter-spoken-cue', (page) => page.getByRole('radio', { name: '1' }).press(' ')],
  ['sequence', 'microcontroller-8-bit-dac', (page) => page.getByRole('button', { name: 'Run' }).press('Enter')],
  ['loops', 'loop-player', (page) => page.getByRole('button', { name: 'Loop of slot 1' }).press('Enter')],
  [
    'start signal',
    'show-controller-track',
    async (page) => {
      await page.getByRole('button', { name: /^Arm / }).press('Enter');
      await page.getByRole('button', { name: 'Start', exact: true }).press('Enter');
    },
  ],
  [
    'hold',
    'telephone-system-message',
    (page) => page.getByRole('button', { name: 'Put the caller on hold' }).press('Enter'),
  ],
  [
    'memory map',
    'console-sound-slot',
    async (page) => {
      await page.getByRole('slider', { name: /Note/ }).press('ArrowRight');
      await page.getByRole('button', { name: /^Play / }).press('Enter');
    },
  ],
];

test.describe('a face is operated by keys alone:', () => {
  for (const [name, target, press] of faces) {
    test(name, async ({ page }) => {
      await putIn(page, target, madeFor(target));
      await press(page);
      await expect(log(page)).toContainText('played at');
      const heard = page.getByRole('radiogroup', { name: 'Heard' });
      await heard.getByRole('radio', { name: 'As it should be' }).press(' ');
      await expect(heard.getByRole('radio', { name: 'As it should be' })).toBeChecked();
      const { violations } = await new AxeBuilder({ page }).analyze();
      expect(violations.map(({ id, nodes }) => [id, nodes.map(({ target: at }) => at)])).toEqual([]);
    });
  }
});

test('of two loops one takes over from the other, and what an event says is chosen', async ({ page }) => {
  const folder = scratch();
  writeFiles(folder, { 'one.wav': wavBytes(2, 2, 44_100), 'two.wav': wavBytes(2, 2, 44_100) });
  await putIn(page, 'loop-player', folder);
  const slot = (number: number) => page.getByRole('button', { name: `Loop of slot ${number}` });
  await slot(1).press('Enter');
  await expect(log(page)).toContainText('played at');
  await slot(2).press('Enter');
  await expect(slot(2)).toHaveAttribute('aria-pressed', 'true');
  await expect(slot(1)).toHaveAttribute('aria-pressed', 'false');
  // The display shows what sounds: its name, its wave, and the place in it, which moves.
  const display = page.getByTestId('display');
  await expect(display).toContainText('two');
  await expect(display.locator('canvas')).toBeVisible();
  const place = await display.getByText(/\d s$/).textContent();
  await expect(display.getByText(/\d s$/)).not.toHaveText(place ?? '');
  await expect(log(page).getByRole('listitem').last()).toContainText(/two\.wav.*played at/);
  await slot(2).press('Enter');
  await expect(page.getByText('Ready')).toBeVisible();
  await expect(display).toContainText('silent');

  await putIn(page, 'two-way-radio-prompt', madeFor('two-way-radio-prompt'));
  await page.getByRole('button', { name: 'Prompt of the event: battery low' }).click();
  await page.getByRole('option', { name: 'bell.wav' }).click();
  await page.getByRole('button', { name: 'Event: battery low', exact: true }).press('Enter');
  await expect(log(page)).toContainText('played at 8');
});

test('bare samples for another rate: small files settle what they do not tell, and a source from the shelf tells it', async ({
  page,
}) => {
  const folder = scratch();
  const chime = join('demo', 'sounds', 'departure-chime.flac');
  const made = tambur('make', '--target', 'console-sound-slot', '--value', 'rate=16000', chime, '--out', folder);
  expect(made.code).toBe(0);
  await putIn(page, 'console-sound-slot', folder);
  await page.getByRole('button', { name: 'Too fast and too high' }).click();
  const unproved = page.getByRole('region', { name: 'What the bytes cannot prove' });
  await expect(unproved).toContainText('The device plays at 44\u202f100 Hz.');
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    unproved.getByRole('button', { name: 'try_1.bin' }).click(),
  ]);
  // Its 2.4 s last half as long as the sheet has them read; at 44 100 Hz and of 16 bits.
  expect(statSync(await download.path()).size).toBe(2 * Math.round(1.2 * 44_100));

  const asked = page.getByRole('region', { name: 'What do you hear or see?' });
  await asked.getByRole('button', { name: 'From the shelf' }).click();
  await page.getByRole('searchbox').fill('departure');
  await page.getByRole('row', { name: /departure-chime/ }).click();
  await page.getByRole('button', { name: 'Take this source' }).click();
  await expect(asked).toContainText('It is held against departure-chime.flac.');
  await expect(asked).toContainText('It sounds as its source does at 16\u202f000 Hz');
});

test('a card from elsewhere: what is refused is said, and a symptom is explained by its bytes', async ({ page }) => {
  const folder = scratch();
  writeFiles(folder, { 'bell.wav': wavBytes(0.8, 1, 16_000), 'gong.wav': wavBytes(0.5, 2, 8000) });
  await putIn(page, 'two-way-radio-prompt', folder);
  await expect(page.getByRole('region', { name: 'Refused' })).toContainText('gong.wav');
  await page.getByRole('button', { name: 'Too slow and too low' }).click();
  const causes = page.getByRole('region', { name: 'What do you hear or see?' });
  await expect(causes).toContainText('It was made for another rate');
  await expect(causes).toContainText('12.0 semitones down');
  await causes.getByRole('button', { name: 'Does it sound like this?' }).click();
  await expect(causes.getByRole('button', { name: 'Stop' })).toBeVisible();
  await page.getByRole('button', { name: 'Only on one side' }).click();
  await expect(causes).toContainText('something else is wrong with it: It was made for another rate');
});

test('what is asked about is the file that was played last', async ({ page }) => {
  const folder = scratch();
  writeFiles(folder, { 'one.wav': wavBytes(2, 2, 44_100), 'two.wav': wavBytes(2, 2, 44_100) });
  await putIn(page, 'loop-player', folder);
  const file = page.getByRole('region', { name: 'What do you hear or see?' }).getByRole('button', { name: /^File/ });
  await expect(file).toContainText('one.wav');
  await page.getByRole('button', { name: 'Loop of slot 2' }).press('Enter');
  await expect(file).toContainText('two.wav');
});

test('a fault of a delivery is diagnosed, mended in the job, built again, and gone once the device is restarted', async ({
  page,
}) => {
  await page.goto('/');
  await page.getByRole('link', { name: 'Station desk phones', exact: true }).click();
  await page.getByRole('button', { name: 'Try it out' }).click();
  const refused = page.getByRole('region', { name: 'Refused' });
  await expect(refused).toContainText('summit-tune.raw');
  await page.getByRole('button', { name: /^File/ }).click();
  await page.getByRole('option', { name: 'summit-tune.raw' }).click();
  await page.getByRole('button', { name: 'It is listed, but refused' }).click();
  await expect(page.getByRole('heading', { name: 'It is longer than the device plays' })).toBeVisible();
  await page.getByRole('button', { name: 'Cut it shorter' }).click();
  const first = page.url();
  await page.getByRole('button', { name: 'Build and try again' }).click();
  await expect(page).not.toHaveURL(first);
  // Until it is restarted it has the one that was too long.
  await expect(page.getByText(/It still has .*summit-tune\.raw/)).toBeVisible();
  await page.getByRole('button', { name: 'Restart the device' }).click();
  await expect(page.getByRole('button', { name: 'Hear Summit tune' })).toBeVisible();
  await expect(refused).toHaveCount(0);
});

test('what is put somewhere on a face is there in the job, and a mend is taken back', async ({ page }) => {
  await page.goto('/');
  await page.getByRole('link', { name: "Guards' handhelds", exact: true }).click();
  await page.getByRole('button', { name: 'Try it out' }).click();
  await page.getByRole('button', { name: 'Prompt of channel 1' }).click();
  await page.getByRole('option', { name: 'storm-warning.wav' }).click();
  await expect(page.getByText('Channel 1 of the job was changed.')).toBeVisible();
  const job = page.url();
  await page.getByRole('link', { name: 'Back to the delivery' }).click();
  await page.getByRole('link', { name: 'Back to the bench' }).click();
  await page.getByRole('link', { name: 'Set', exact: true }).click();
  await expect(page.getByLabel('Place of Storm warning').first()).toHaveValue('1');
  await page.goto(job);
  await page.getByRole('button', { name: 'Prompt of channel 1' }).click();
  await page.getByRole('option', { name: 'none' }).click();
  await page.getByRole('button', { name: 'Undo' }).last().click();
  await expect(page.getByRole('button', { name: 'Prompt of channel 1' })).not.toContainText('none');
});

test('a recording of the device is listened to', async ({ page }) => {
  const card = madeFor('desk-phone-ring-tone');
  const folder = scratch();
  const heard = join(folder, 'heard.wav');
  const { code } = tambur(
    'try',
    '--target',
    'desk-phone-ring-tone',
    join(card, 'bell.raw'),
    '--play',
    '1',
    '--out',
    heard,
  );
  expect(code).toBe(0);
  await page.goto('/try?target=desk-phone-ring-tone');
  await page.getByLabel('A card to try').setInputFiles(join(card, 'bell.raw'));
  await page.getByLabel('A recording of the device').setInputFiles(heard);
  await expect(page.getByText('It played the file as it is')).toBeVisible();
});

test('a sheet of one’s own gets a face and a trait, and says what cannot be observed', async ({ page }) => {
  await page.goto('/targets/portable-player');
  await expect(page.getByRole('article')).toContainText('otherwise: not known');
  await page.getByRole('button', { name: 'Duplicate' }).click();
  await page.getByRole('button', { name: /^Operated by/ }).click();
  await page.getByRole('option', { name: 'Number keys' }).click();
  await page.getByRole('switch', { name: 'Quiet mode' }).click();
  await expect(page.getByLabel('First number')).toHaveValue('0');
  await page.getByRole('button', { name: /^Save/ }).first().click();
  await expect(page.getByRole('article')).toContainText('Number keys');
  await expect(page.getByRole('article')).toContainText('has a quiet mode in which nothing is heard');
});

test('a device looks in the folder of its language, and in another one where that is chosen', async ({ page }) => {
  const made = readFileSync(join(madeFor('transmitter-spoken-cue'), 'sounds/en/bell.wav'));
  const folder = scratch();
  const zip = join(folder, 'card.zip');
  const script = `
import sys, zipfile
with zipfile.ZipFile(sys.argv[1], 'w') as card:
    for name in ('sounds/en/bell.wav', 'sounds/de/gong.wav'):
        card.writestr(name, open(sys.argv[2], 'rb').read())`;
  writeFiles(folder, { 'bell.wav': made });
  execFileSync('python3', ['-c', script, zip, join(folder, 'bell.wav')]);
  await page.goto('/try?target=transmitter-spoken-cue');
  await page.getByLabel('A card to try').setInputFiles(zip);
  await expect(page.getByRole('button', { name: 'Sound of position 1' })).toContainText('bell.wav');
  await page.getByRole('radio', { name: 'sounds/de' }).press(' ');
  await expect(page.getByRole('button', { name: 'Sound of position 1' })).toContainText('gong.wav');
});
