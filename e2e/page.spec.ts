import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import type { Page } from '@playwright/test';
import { choose } from './support/choose.ts';
import { badFiles, scratch, sha256, soundFiles, tambur, wavBytes, writeFiles } from './support/files.ts';
import { openStation } from './support/jobs.ts';
import { expect, test } from './support/server.ts';

type Dropped = { name: string; mimeType: string; buffer: Buffer };
const file = (name: string, buffer: Buffer): Dropped => ({ name, mimeType: 'application/octet-stream', buffer });

/** Starts a job for a device with files, as a person does. */
async function startJob(page: Page, device: string, files: Dropped[]) {
  await page.goto('/');
  await page.getByRole('radio', { name: device }).click();
  await page.getByLabel('Audio files').setInputFiles(files);
  await expect(page.getByRole('heading', { name: 'Target sheet' })).toBeVisible();
}

const result = (page: Page) => page.getByTestId('result-lane');
const resultIsCurrent = (page: Page) => expect(result(page)).toHaveAttribute('data-current', 'true');
const saved = (page: Page) => expect(page.getByRole('status').filter({ hasText: /^saved$/ })).toBeVisible();
const clipRow = (page: Page, name: string) =>
  page.getByRole('listitem').filter({ has: page.getByRole('button', { name: `Remove ${name}`, exact: true }) });
const clipNames = (page: Page): Promise<string[]> =>
  page
    .getByRole('button', { name: /^Remove / })
    .evaluateAll((buttons) =>
      buttons.map((button) => (button.getAttribute('aria-label') ?? '').replace('Remove ', '')),
    );

for (const [kind, make] of Object.entries(soundFiles)) {
  test(`a dropped ${kind} is opened in the page and on the server, fitted, and answered`, async ({ page }) => {
    await startJob(page, 'Desk phone ring tone', [file(`cabin_bell.${kind}`, await make(2))]);
    await expect(page.getByLabel('Name of the clip')).toHaveValue('Cabin bell');
    await resultIsCurrent(page);
    const sheet = page.getByTestId('target-sheet');
    await expect(sheet.getByText('meets', { exact: true })).toHaveCount(8);
    await expect(page.getByRole('img', { name: /^Waveform of cabin_bell/ })).toBeVisible();
  });
}

test('the bytes of the preview, of the build and of the command line are the same', async ({ page, request }) => {
  const mp3 = await soundFiles.mp3(8);
  for (const { device, id, folder } of [
    { device: 'Desk phone ring tone', id: 'desk-phone-ring-tone', folder: scratch() },
    { device: 'Microcontroller, 8-bit DAC', id: 'microcontroller-8-bit-dac', folder: scratch() },
  ]) {
    await startJob(page, device, [file('Platform bell.mp3', mp3)]);
    await openStation(page, 'Cut');
    await page.getByLabel('Start, seconds').fill('1.25');
    await page.getByLabel('Start, seconds').press('Enter');
    await page.getByLabel('End, seconds').fill('3.1');
    await page.getByLabel('End, seconds').press('Enter');
    await page.getByRole('button', { name: /^Level/ }).click();
    await page.getByRole('radio', { name: 'To a loudness' }).click();
    await page.getByRole('switch', { name: 'Limiter' }).click();
    await page.getByRole('switch', { name: 'Telephone band' }).click();
    await page.getByRole('button', { name: /^Ends/ }).click();
    await page.getByRole('switch', { name: 'Trim it' }).click();
    await page.getByRole('textbox', { name: 'Out', exact: true }).fill('40');
    await page.getByRole('textbox', { name: 'Out', exact: true }).press('Enter');
    await page.getByRole('button', { name: /^Depth/ }).click();
    await page.getByRole('radio', { name: /^two steps wide/ }).click();
    await page.getByRole('radio', { name: 'to where one hears less' }).click();
    await page.getByRole('button', { name: /^Wrap/ }).click();
    await resultIsCurrent(page);
    const begins = page.getByRole('button', { name: /begins, and its SHA-256$/ });
    if ((await begins.getAttribute('aria-expanded')) === 'false') await begins.click();
    const fingerprint = page.getByTestId('fingerprint');
    await expect(fingerprint).toHaveText(/^[0-9a-f]{64}$/);
    const preview = await fingerprint.textContent();

    await page.getByRole('button', { name: 'Build set' }).click();
    await expect(page.getByRole('link', { name: /Download the set/ })).toBeVisible();
    const deliveryId = page.url().split('/').pop();
    const [built] = (await (await request.get(`/api/deliveries/${deliveryId}`)).json()).artifacts;
    const downloaded = await (await request.get(`/api/deliveries/${deliveryId}/files/${built.path}`)).body();

    const [source] = writeFiles(folder, { 'Platform bell.mp3': mp3 });
    const wishes = [
      'level.loudness=-16',
      'level.limitDb=-1',
      'level.telephoneBand=true',
      'ends.trim.thresholdDb=-60',
      'ends.fadeOut.ms=40',
      'depth.dither=shaped',
    ].flatMap((wish) => ['--set', wish]);
    const cut = ['--start', '1.25', '--end', '3.1', ...wishes];
    const made = tambur('make', '--target', id, source, '--out', join(folder, 'out'), ...cut);
    expect(made.code).toBe(0);
    const ours = sha256(readFileSync(join(folder, 'out', built.path)));

    expect([built.sha256, sha256(downloaded), ours]).toEqual([preview, preview, preview]);
  }
});

test('cutting: by dragging, by typing, by arrow keys, undone step by step', async ({ page }) => {
  await startJob(page, 'Microcontroller, 8-bit DAC', [file('tone.wav', wavBytes(4))]);
  await resultIsCurrent(page);
  const start = page.getByRole('slider', { name: 'Start of the cut' });
  const end = page.getByRole('slider', { name: 'End of the cut' });

  const lane = await page.getByRole('img', { name: /^Waveform of tone/ }).boundingBox();
  if (!lane) throw new Error('no lane');
  await page.mouse.move(lane.x + 1, lane.y + 0.75 * lane.height);
  await page.mouse.down();
  for (const part of [0.1, 0.2, 0.25]) await page.mouse.move(lane.x + lane.width * part, lane.y + 0.75 * lane.height);
  await page.mouse.up();
  const dragged = Number(await start.getAttribute('aria-valuenow'));
  expect(Math.abs(dragged - 44_100)).toBeLessThan(400);

  await page.getByLabel('End, frames').fill('88200');
  await page.getByLabel('End, frames').press('Enter');
  await expect(end).toHaveAttribute('aria-valuenow', '88200');
  await end.focus();
  await page.keyboard.press('ArrowLeft');
  await expect(end).toHaveAttribute('aria-valuenow', String(88_200 - 441));
  await page.keyboard.press('Alt+ArrowRight');
  await expect(end).toHaveAttribute('aria-valuenow', String(88_200 - 440));
  await resultIsCurrent(page);

  for (const [edge, value] of [
    [end, 88_200 - 441],
    [end, 88_200],
    [end, 176_400],
    [start, 0],
  ] as const) {
    await page.keyboard.press('Control+z');
    await expect(edge).toHaveAttribute('aria-valuenow', String(value));
  }
  await page.keyboard.press('Control+Shift+z');
  await expect(start).toHaveAttribute('aria-valuenow', String(dragged));

  // Zoom around the start of the cut, and back.
  const shown = page.getByTestId('overview-view');
  await expect(shown).toHaveAttribute('style', /width: 100%/);
  await page.keyboard.press('+');
  await page.keyboard.press('+');
  await expect(shown).toHaveAttribute('style', /width: 25%/);
  await page.keyboard.press('0');
  await expect(shown).toHaveAttribute('style', /width: 100%/);
});

test('a handle that leaves the screen in the middle of a drag leaves undo as it was', async ({ page }) => {
  await startJob(page, 'Desk phone ring tone', [file('tone.wav', wavBytes(4))]);
  await resultIsCurrent(page);
  const start = page.getByRole('slider', { name: 'Start of the cut' });
  const lane = await page.getByRole('img', { name: /^Waveform of tone/ }).boundingBox();
  if (!lane) throw new Error('no lane');
  await page.mouse.move(lane.x + 1, lane.y + 0.75 * lane.height);
  await page.mouse.down();
  await page.mouse.move(lane.x + lane.width * 0.1, lane.y + 0.75 * lane.height);
  await expect(start).not.toHaveAttribute('aria-valuenow', '0');
  // Seen from near enough, in the middle of the sound, the start is no longer on the screen.
  for (let i = 0; i < 12 && (await start.count()) > 0; i++) await page.keyboard.press('+');
  await page.mouse.move(lane.x + lane.width * 0.9, lane.y + 0.75 * lane.height);
  await page.mouse.up();
  await page.keyboard.press('0');
  const moved = Number(await start.getAttribute('aria-valuenow'));
  await page.getByLabel('Start, frames').fill('1000');
  await page.getByLabel('Start, frames').press('Enter');
  await expect(start).toHaveAttribute('aria-valuenow', '1000');
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(start).toHaveAttribute('aria-valuenow', String(moved));
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(start).toHaveAttribute('aria-valuenow', '0');
});

test('the spectrum is that of the result that is shown, not of the one before', async ({ page }) => {
  await startJob(page, 'Archive copy', [file('tone.wav', wavBytes(3))]);
  await page.keyboard.press('3');
  const curve = page.locator('#station .recharts-line-curve').last();
  const choose = async (rate: RegExp) => {
    await page.getByRole('radio', { name: rate }).click();
    await resultIsCurrent(page);
  };
  /** The curve at a rate, once it is no longer that of another. */
  const curveAt = async (rate: RegExp, other: string) => {
    await choose(rate);
    await expect(curve).not.toHaveAttribute('d', other);
    return (await curve.getAttribute('d')) ?? '';
  };
  await expect(curve).toBeVisible();
  const asItCame = (await curve.getAttribute('d')) ?? '';
  const at8 = await curveAt(/^8\s000 Hz/, asItCame);
  const at22 = await curveAt(/^22\s050 Hz/, at8);
  await choose(/^8\s000 Hz/);
  await expect(curve).toHaveAttribute('d', at8);
  await choose(/^22\s050 Hz/);
  await expect(curve).toHaveAttribute('d', at22);
});

test('several clips: rename, reorder, remove, undo; all of it is there after loading again', async ({ page }) => {
  const files = ['one', 'two', 'three'].map((name, i) => file(`${name}.wav`, wavBytes(0.5 + i / 10)));
  await startJob(page, 'Desk phone ring tone', files);
  await expect.poll(() => clipNames(page)).toHaveLength(3);
  // Decoding runs side by side: put them into a known order first.
  for (const [index, name] of ['One', 'Two', 'Three'].entries()) {
    for (let tries = 0; tries < 20 && (await clipNames(page)).indexOf(name) !== index; tries++) {
      await page.getByRole('button', { name: `Move ${name}`, exact: true }).focus();
      await page.keyboard.press('Space');
      await page.waitForTimeout(150);
      await page.keyboard.press('ArrowUp');
      await page.waitForTimeout(150);
      await page.keyboard.press('Space');
      await page.waitForTimeout(300);
    }
  }
  await expect.poll(() => clipNames(page)).toEqual(['One', 'Two', 'Three']);

  await clipRow(page, 'Two')
    .getByRole('button', { name: /^\d+ Two/ })
    .click();
  await page.getByLabel('Name of the clip').fill('Second bell');
  await page.getByLabel('Name of the clip').press('Enter');
  await expect.poll(() => clipNames(page)).toEqual(['One', 'Second bell', 'Three']);

  await page.getByRole('button', { name: 'Remove One' }).click();
  await expect.poll(() => clipNames(page)).toEqual(['Second bell', 'Three']);
  await page.getByRole('button', { name: 'Undo', exact: true }).first().click();
  await expect.poll(() => clipNames(page)).toEqual(['One', 'Second bell', 'Three']);
  await page.getByRole('button', { name: 'Remove Three' }).click();
  await saved(page);
  await page.reload();
  await expect.poll(() => clipNames(page)).toEqual(['One', 'Second bell']);

  await page.getByLabel('Title of the job').fill('Evening bells');
  await page.getByLabel('Title of the job').press('Enter');
  await page.getByRole('link', { name: 'Jobs' }).click();
  const card = page.getByRole('listitem').filter({ hasText: 'Evening bells' });
  await expect(card).toContainText('One, Second bell');
  await card.getByRole('button', { name: /Delete/ }).click();
  await page.getByRole('button', { name: 'Delete the job', exact: true }).click();
  await expect(card).toHaveCount(0);
});

test('undo and redo go on after the page is loaded again', async ({ page }) => {
  await startJob(page, 'Desk phone ring tone', [file('tone.wav', wavBytes(1))]);
  await resultIsCurrent(page);
  const name = page.getByLabel('Name of the clip');
  for (const next of ['Bell', 'Evening bell']) {
    await name.fill(next);
    await name.press('Enter');
  }
  await saved(page);
  await page.reload();
  for (const [button, wanted] of [
    ['Undo', 'Bell'],
    ['Undo', 'Tone'],
    ['Redo', 'Bell'],
  ] as const) {
    await page.getByRole('button', { name: button, exact: true }).click();
    await expect(name).toHaveValue(wanted);
  }
  await page.reload();
  await page.getByRole('button', { name: 'Redo', exact: true }).click();
  await expect(name).toHaveValue('Evening bell');
  await expect(page.getByRole('button', { name: 'Redo', exact: true })).toBeDisabled();
});

test('two windows on one job follow each other, and never overwrite silently', async ({ page, context }) => {
  await startJob(page, 'Desk phone ring tone', [file('tone.wav', wavBytes(1)), file('other.wav', wavBytes(1.2))]);
  await expect.poll(() => clipNames(page)).toHaveLength(2);
  await saved(page);
  const second = await context.newPage();
  await second.goto(page.url());
  await expect.poll(() => clipNames(second)).toHaveLength(2);
  const rename = async (where: Page, from: string, to: string) => {
    await clipRow(where, from)
      .getByRole('button', { name: new RegExp(`^\\d+ ${from}`) })
      .click();
    await where.getByLabel('Name of the clip').fill(to);
    await where.getByLabel('Name of the clip').press('Enter');
  };
  await rename(page, 'Tone', 'From one');
  await expect.poll(() => clipNames(second)).toContain('From one');
  await rename(second, 'Other', 'From two');
  await expect.poll(() => clipNames(page)).toContain('From two');
  await choose(page, /^Variant of the sheet/, 'older sets');
  await expect(second.getByRole('button', { name: /^Variant of the sheet/ })).toContainText('older sets');

  // One of them hears nothing for a while, and both change the same clip.
  await second.route('**/api/jobs/**', (route) => route.abort());
  await rename(second, 'From two', 'Late');
  await expect(second.getByText(/Not saved/)).toBeVisible();
  await rename(page, 'From two', 'First');
  await saved(page);
  await second.unroute('**/api/jobs/**');
  await expect(second.getByText(/Another window changed the same thing/)).toBeVisible();
  for (const where of [page, second]) await expect.poll(() => clipNames(where)).toContain('First');
});

test('playing: source and result from one clock, switched while it plays, looped', async ({ page }) => {
  await startJob(page, 'Desk phone ring tone', [file('tone.wav', wavBytes(6))]);
  await resultIsCurrent(page);
  const seconds = async () => Number.parseFloat((await page.getByRole('timer').textContent()) ?? '');
  await page.locator('body').press('Space');
  await expect(page.getByRole('button', { name: 'Pause' })).toBeVisible();
  await expect.poll(seconds).toBeGreaterThan(0.2);
  const before = await seconds();
  await page.locator('body').press('s');
  await expect(page.getByRole('radio', { name: 'Source', exact: true })).toBeChecked();
  expect(await seconds()).toBeGreaterThanOrEqual(before);
  await page.locator('body').press('l');
  // Beyond its end it is still playing, and from its beginning.
  let last = 0;
  await expect
    .poll(async () => {
      const now = await seconds();
      const isBack = now < last - 3;
      last = now;
      expect(now).toBeLessThan(6.01);
      return isBack;
    })
    .toBe(true);
  await expect(page.getByRole('button', { name: 'Pause' })).toBeVisible();
  await page.locator('body').press('Space');
  await expect(page.getByRole('button', { name: 'Play', exact: true })).toBeVisible();
});

test('a sheet that cannot be met says so, and one click on a way out mends it', async ({ page }) => {
  await startJob(page, 'Two-way radio prompt', [file('long.wav', wavBytes(6))]);
  const sheet = page.getByTestId('target-sheet');
  await expect(sheet.getByRole('alert')).toContainText('too long: the sheet allows');
  // Too many seconds, and too many bytes.
  await expect(sheet.getByText('breaks', { exact: true })).toHaveCount(2);
  await sheet.getByRole('button', { name: /off the end/ }).click();
  await expect(sheet.getByRole('alert')).toHaveCount(0);
  await expect(sheet.getByRole('button', { name: '8 meet' })).toBeVisible();
  await expect(sheet.getByText('breaks', { exact: true })).toHaveCount(0);
});

test('a set is evened out in one step, and what is measured is shown', async ({ page }) => {
  await startJob(page, 'Microcontroller, 8-bit DAC', [
    file('soft bell.wav', wavBytes(1.013, 1, 44_100, 0.05)),
    file('loud bell.wav', wavBytes(0.917)),
  ]);
  await resultIsCurrent(page);
  await page.getByRole('button', { name: /^Level/ }).click();
  await page.getByRole('button', { name: 'Even out all clips' }).click();
  const apply = page.getByRole('button', { name: 'Give all the same loudness' });
  await expect(apply).toBeEnabled();
  await expect(page.getByRole('row', { name: /soft bell/i })).toContainText('+');
  await apply.click();
  await expect(page.getByText(/^2 clips at/)).toBeVisible();
  const goals: string[] = [];
  for (const name of ['Soft', 'Loud']) {
    await clipRow(page, `${name} bell`)
      .getByRole('button', { name: new RegExp(`^\\d+ ${name}`) })
      .click();
    await expect(page.getByLabel('Name of the clip')).toHaveValue(`${name} bell`);
    // The bench of another clip opens with its cut; that of the same one stays as it was.
    const level = page.getByRole('region', { name: 'Level' });
    if (!(await level.isVisible())) await page.getByRole('button', { name: /^Level/ }).click();
    await expect(page.getByRole('radio', { name: 'To a loudness' })).toBeChecked();
    goals.push(await page.getByRole('textbox', { name: 'Goal', exact: true }).inputValue());
  }
  expect(goals[0]).toBe(goals[1]);
  await page.keyboard.press('Control+z');
  await expect(page.getByRole('radio', { name: 'Automatic', exact: true }).first()).toBeChecked();
});

test('a timer sets an exact rate, and the spectrum stands beside it', async ({ page }) => {
  await startJob(page, 'Microcontroller, 8-bit DAC', [file('timer tone.wav', wavBytes(1.117))]);
  await page.getByRole('button', { name: /^Rate/ }).click();
  await page.getByLabel('divided by').fill('1020');
  await page.getByLabel('divided by').press('Enter');
  await expect(page.getByRole('button', { name: /^Rate/ })).toContainText('15\u202f686.27 Hz');
  await expect(page.getByRole('img', { name: /^Spectrum; above 7/ })).toBeVisible();
  await expect(page.getByText(/It is 16\u202f000\u202f000 Hz \/ 1\u202f020/).first()).toBeVisible();
  await page.getByRole('button', { name: 'Back to automatic' }).click();
  await expect(page.getByRole('button', { name: /^Rate/ })).toContainText('16\u202f000 Hz');
});

test('every station says what its choices do: channels, draft, fades and bars, depth', async ({ page }) => {
  await startJob(page, 'Microcontroller, 8-bit DAC', [file('every choice.wav', wavBytes(1.231))]);
  await resultIsCurrent(page);
  const station = (name: string) => page.getByRole('button', { name: new RegExp(`^${name}`) });
  const panel = page.locator('#station');

  await station('Channels').click();
  await page.getByRole('radio', { name: 'Weights' }).click();
  await page.getByRole('textbox', { name: 'right', exact: true }).fill('-0.25');
  await page.getByRole('textbox', { name: 'right', exact: true }).press('Enter');
  await expect(panel.getByText(/0\.50 × left \+ \u22120\.25 × right/)).toBeVisible();
  await page.getByRole('radio', { name: /equal power/ }).click();
  await expect(panel.getByText(/3\.0 dB louder than its inputs/)).toBeVisible();

  await station('Rate').click();
  await page.getByRole('switch', { name: /^Draft/ }).click();
  await expect(station('Rate')).toContainText('draft');

  await station('Ends').click();
  await page.getByRole('radio', { name: 'Bars' }).click();
  await expect(station('Ends')).toContainText('1 bar');
  await page.getByRole('radio', { name: /^Stretch/ }).click();
  await expect(panel.getByText(/the pitch goes down by \d+\.\d cents/)).toBeVisible();
  await page.getByRole('radio', { name: 'Frames', exact: true }).click();
  await page.getByRole('textbox', { name: 'Exactly', exact: true }).fill('12345');
  await page.getByRole('textbox', { name: 'Exactly', exact: true }).press('Enter');
  await resultIsCurrent(page);
  await expect(panel.getByText('0.772 s, 12\u202f345 frames')).toBeVisible();

  await station('Depth').click();
  await page.getByRole('radio', { name: /^4 bit/ }).click();
  await resultIsCurrent(page);
  // 6.02 x 4 + 1.76 dB.
  await expect(page.getByRole('radio', { name: /^4 bit/ })).toContainText('26 dB');
  await expect(panel.getByText(/of 16$/)).toBeVisible();
  await page.getByRole('button', { name: 'Look at the samples' }).click();
  await expect(page.getByRole('img', { name: /of the result as steps, over the source/ })).toBeVisible();

  // By keyboard: a toggle with the space bar.
  await station('Level').click();
  await page.getByRole('switch', { name: 'Limiter' }).focus();
  await page.keyboard.press('Space');
  await expect(panel.getByText(/A limiter keeps peaks at or below \u22121\.0 dBFS/)).toBeVisible();
});

test('of two limits the one that binds is named, and a gain too far is a finding', async ({ page }) => {
  await startJob(page, 'Two-way radio prompt', [file('long prompt.wav', wavBytes(5.019))]);
  await resultIsCurrent(page);
  const sheet = page.getByTestId('target-sheet');
  await expect(sheet.getByText(/sheet allows 56\u202f000 bytes, in effect 3\.497 s/)).toBeVisible();
  await sheet.getByRole('button', { name: /^Cut .* off the end$/ }).click();
  await resultIsCurrent(page);
  await sheet.getByRole('button', { name: /^\d+ meet$/ }).click();
  await expect(sheet.getByText('56\u202f000 bytes')).toBeVisible();
  // Three seconds are advised; more than that still plays.
  await expect(sheet.getByText('advises', { exact: true })).toHaveCount(1);

  await page.getByRole('button', { name: /^Level/ }).click();
  await page.getByRole('radio', { name: 'By a gain' }).click();
  await page.getByRole('textbox', { name: 'Gain', exact: true }).fill('30');
  await page.getByRole('textbox', { name: 'Gain', exact: true }).press('Enter');
  await resultIsCurrent(page);
  await expect(sheet.getByText('no flattened frames')).toBeVisible();
  await expect(sheet.getByText(/lower the gain by \d+\.\d\sdB, or use the limiter/)).toBeVisible();
  await page.getByRole('switch', { name: 'Limiter' }).click();
  await resultIsCurrent(page);
  await expect(sheet.getByText('no flattened frames')).toBeHidden();
});

test('stations by hand and back to automatic', async ({ page }) => {
  await startJob(page, 'Microcontroller, 8-bit DAC', [file('tone.wav', wavBytes(1))]);
  const rate = page.getByRole('button', { name: /^Rate/ });
  await rate.click();
  await page.getByRole('radio', { name: /^22.050 Hz/ }).click();
  await expect(rate).toContainText(/22.050 Hz/);
  await expect(rate).toContainText('set by hand');
  await expect(page.getByTestId('target-sheet').getByText(/resample it to 16.000\sHz/)).toBeVisible();
  await page.getByRole('button', { name: 'Back to automatic' }).click();
  await expect(rate).toContainText(/16.000 Hz/);

  await page.getByRole('button', { name: /^Level/ }).click();
  await page.getByRole('radio', { name: 'By a gain' }).click();
  await page.getByLabel('Gain').fill('24');
  await page.getByLabel('Gain').press('Enter');
  await expect(page.getByRole('button', { name: /^Level/ })).toContainText('trouble');
  await expect(page.locator('#station')).toContainText(/flattened\s*[1-9]/);
});

test('files that cannot be used say why, one sentence each, and stop no other', async ({ page }) => {
  const bad = badFiles();
  await startJob(page, 'Desk phone ring tone', [
    file('good.wav', wavBytes(1)),
    ...bad.map(({ name, bytes }) => file(name, bytes)),
  ]);
  const incoming = page.getByRole('region', { name: 'Files coming in' });
  // One line for all of them; why, on demand.
  const line = incoming.getByRole('button', { name: `1 file in, ${bad.length} could not be used` });
  await expect(line).toBeVisible();
  await expect(incoming.getByRole('listitem')).toHaveCount(0);
  await line.click();
  await expect(incoming.getByRole('listitem')).toHaveCount(bad.length);
  for (const { name, words } of bad) {
    await expect(incoming.getByRole('listitem').filter({ hasText: name }).getByRole('alert')).toHaveText(words);
  }
  await expect.poll(() => clipNames(page)).toEqual(['Good']);
  await page.getByRole('button', { name: 'Clear' }).click();
  await expect(incoming).toHaveCount(0);
});

test('a file over the limit is refused at once, in the page', async ({ page }) => {
  await startJob(page, 'Desk phone ring tone', [file('good.wav', wavBytes(1))]);
  await page.getByLabel('Audio files').evaluate((input: HTMLInputElement) => {
    const data = new DataTransfer();
    const huge = new File([], 'huge.wav');
    // Nobody has room for a real one.
    Object.defineProperty(huge, 'size', { value: 4_000_000_001 });
    data.items.add(huge);
    input.files = data.files;
    input.dispatchEvent(new Event('change', { bubbles: true }));
  });
  const incoming = page.getByRole('region', { name: 'Files coming in' });
  await expect(incoming.getByRole('alert')).toHaveText(/^huge\.wav is larger than 4\.00 GB/);
});

test('a delivered file is fetched, opened again and played; built again it has the same bytes', async ({ page }) => {
  await startJob(page, 'Microcontroller, 8-bit DAC', [file('tone.wav', wavBytes(2))]);
  await resultIsCurrent(page);
  await page.keyboard.press('b');
  await page.getByRole('button', { name: 'Play tone.h' }).click();
  await expect(page.getByRole('button', { name: 'Stop tone.h' })).toBeVisible();
  await expect(page.getByRole('button', { name: 'Play tone.h' })).toBeVisible();
  await expect(page.getByRole('alert')).toHaveCount(0);
  const download = page.waitForEvent('download');
  await page.getByRole('link', { name: 'Download tone.h' }).click();
  expect(readFileSync(await (await download).path(), 'utf8')).toContain('static const uint8_t tone[TONE_LENGTH] = {');
  await page.getByRole('button', { name: 'Build again and compare' }).click();
  await expect(page.getByText('Built again: the file has the same bytes.')).toBeVisible();
});

test('where notices cannot be loaded the page goes on, and the browser says what went wrong', async ({ page }) => {
  const html = await (await page.request.get('/')).text();
  const isNeeded = (url: string) => html.includes(new URL(url).pathname);
  await page.route('**/assets/*.js', (route) => (isNeeded(route.request().url()) ? route.continue() : route.abort()));
  await page.route('**/api/jobs', (route) => (route.request().method() === 'POST' ? route.abort() : route.continue()));
  let said = '';
  page.on('dialog', async (dialog) => {
    said = dialog.message();
    await dialog.dismiss();
  });
  await page.goto('/');
  await page.getByRole('button', { name: 'Start without audio' }).click();
  await expect.poll(() => said).toMatch(/The Tambur server does not answer/);
  await expect(page.getByRole('heading', { name: 'Start a job' })).toBeVisible();
});

test('changes are not lost while the server does not answer', async ({ page }) => {
  await startJob(page, 'Desk phone ring tone', [file('tone.wav', wavBytes(1))]);
  await resultIsCurrent(page);
  await saved(page);
  await page.route('**/api/jobs/**', (route) => route.abort());
  await page.getByLabel('Name of the clip').fill('While away');
  await page.getByLabel('Name of the clip').press('Enter');
  await expect(page.getByText(/Not saved\. The Tambur server does not answer/)).toBeVisible();
  await page.unroute('**/api/jobs/**');
  await saved(page);
  await page.reload();
  await expect(page.getByLabel('Name of the clip')).toHaveValue('While away');
});

test('leaving while a file is coming in asks first', async ({ page }) => {
  await startJob(page, 'Desk phone ring tone', [file('tone.wav', wavBytes(1))]);
  await resultIsCurrent(page);
  await saved(page);
  // Held back until the test is over.
  await page.route('**/api/sources?name=late.wav*', () => undefined);
  await page.getByLabel('Audio files').setInputFiles([file('late.wav', wavBytes(1.1))]);
  await expect(page.getByRole('region', { name: 'Files coming in' })).toBeVisible();
  await page.getByRole('link', { name: 'Jobs' }).click();
  await page.getByRole('button', { name: 'Stay' }).click();
  await expect(page.getByLabel('Name of the clip')).toHaveValue('Tone');
  await page.getByRole('link', { name: 'Jobs' }).click();
  await page.getByRole('button', { name: 'Leave' }).click();
  await expect(page.getByRole('heading', { name: 'Start a job' })).toBeVisible();
});

test('leaving at once after a change, and coming back, loses nothing', async ({ page }) => {
  await startJob(page, 'Desk phone ring tone', [file('tone.wav', wavBytes(1))]);
  await resultIsCurrent(page);
  await page.getByLabel('Name of the clip').fill('Changed at the last moment');
  await page.getByLabel('Name of the clip').press('Enter');
  await page.getByRole('link', { name: 'Jobs' }).click();
  await page.goBack();
  await expect(page.getByLabel('Name of the clip')).toHaveValue('Changed at the last moment');
  await saved(page);
});
