import config from '../playwright.config.ts';
import { expect, test } from './support/server.ts';

/** A microphone that hears one of the guards' handhelds: it plays upper-station.wav at half its rate. */
const HEARD = new URL('../web/public/try-out/upper-station-on-a-handheld.wav', import.meta.url).pathname;
const launch = config.use?.launchOptions;

test.use({
  permissions: ['microphone'],
  launchOptions: { ...launch, args: [...(launch?.args ?? []), `--use-file-for-fake-audio-capture=${HEARD}`] },
});

test('the device is recorded in the page, and what it did is said', async ({ page }) => {
  await page.goto('/try');
  await page.getByRole('button', { name: /guards.* card/ }).click();
  await page.getByRole('button', { name: /^File/ }).click();
  await page.getByRole('option', { name: 'upper-station.wav' }).click();
  await page.getByRole('button', { name: 'Record', exact: true }).click();
  const dialog = page.getByRole('dialog');
  await expect(dialog.getByRole('meter')).toBeVisible();
  await dialog.getByRole('button', { name: 'Record', exact: true }).click();
  const stop = dialog.getByRole('button', { name: 'Stop' });
  await stop.waitFor();
  // All of the sound is heard within two rounds of what the microphone hears.
  await expect(dialog.getByText(/^[78]\.\d/).first()).toBeVisible();
  await stop.click();
  await dialog.getByRole('button', { name: 'Keep it' }).click();
  await expect(page.getByText('It played the file at another rate')).toBeVisible();
  // What a busy machine records has gaps: how exact the rate is, is tried with whole recordings.
  await expect(page.getByText(/^[78]\u202f\d{3} Hz$/)).toBeVisible();
});
