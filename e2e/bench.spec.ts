import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import type { Locator, Page } from '@playwright/test';
import type { JobView, SourceView } from '@tambur/server';
import { drop } from './support/drop.ts';
import { scratch, wavBytes } from './support/files.ts';
import { clip, putting } from './support/jobs.ts';
import { expect, test } from './support/server.ts';

/** The bench as a person has it before him: what is in sight, and where. */

const STATIONS = ['Cut', 'Channels', 'Rate', 'Level', 'Ends', 'Depth', 'Wrap'];

const result = (page: Page) => page.getByTestId('result-lane');
const resultIsCurrent = (page: Page) => expect(result(page)).toHaveAttribute('data-current', 'true');
const part = (page: Page, name: string | RegExp) =>
  page.getByRole('navigation', { name: 'Parts of the bench' }).getByRole('button', { name });

async function openJob(page: Page, job: string) {
  await page.goto('/');
  await page.getByRole('link', { name: job, exact: true }).click();
}

/** Where something stands; it is there as a whole, on the screen. */
async function inSight(page: Page, what: Locator) {
  await expect(what).toBeVisible();
  const box = await what.boundingBox();
  const size = page.viewportSize();
  if (!box || !size) throw new Error('nothing is there');
  expect(box.x).toBeGreaterThanOrEqual(0);
  expect(box.y).toBeGreaterThanOrEqual(0);
  expect(box.x + box.width).toBeLessThanOrEqual(size.width);
  expect(box.y + box.height).toBeLessThanOrEqual(size.height);
  // Nor does anything lie over it, but for what belongs to it.
  const hit = await what.evaluate((element) => {
    const { left, top, width, height } = element.getBoundingClientRect();
    const found = document.elementFromPoint(left + width / 2, top + height / 2);
    return found !== null && ((element.parentElement ?? element).contains(found) || found.contains(element));
  });
  expect(hit).toBe(true);
  return box;
}

/** A job of so many clips of one source. */
async function manyClips(page: Page, count: number): Promise<JobView> {
  const source: SourceView = await (
    await page.request.post('/api/sources?name=gong.wav', {
      data: wavBytes(0.4),
      headers: { 'content-type': 'audio/wav' },
    })
  ).json();
  const job: JobView = await (
    await page.request.post('/api/jobs', { data: { title: `${count} gongs`, sheet: 'desk-phone-ring-tone' } })
  ).json();
  const clips = Array.from({ length: count }, (_, i) => clip(source.id, `Gong ${i + 1}`));
  const answer = await page.request.post(`/api/jobs/${job.id}/changes`, {
    data: { revision: job.revision, change: putting(clips) },
  });
  expect(answer.ok()).toBe(true);
  return job;
}

test.describe('1280 by 800', () => {
  test.use({ viewport: { width: 1280, height: 800 } });

  test('whatever station is open, lanes, line, transport and all that is set at it are in sight together', async ({
    page,
  }) => {
    await openJob(page, 'Cabin panel');
    await resultIsCurrent(page);
    for (const [index, title] of STATIONS.entries()) {
      if (index > 0) await page.locator('body').press(String(index + 1));
      const panel = page.getByRole('region', { name: title, exact: true });
      await expect(panel).toBeVisible();
      await resultIsCurrent(page);
      const source = await inSight(page, page.getByRole('img', { name: /^Waveform of doors-closing/ }));
      const line = await inSight(page, page.getByRole('list', { name: 'Stations' }));
      const made = await inSight(page, result(page));
      const play = await inSight(page, page.getByRole('button', { name: 'Play', exact: true }));
      const first = await inSight(page, panel.locator('[role=radio], [role=switch], input').first());
      const order = [source, line, made, play, first];
      expect(order.map(({ y }) => y)).toEqual(order.map(({ y }) => y).toSorted((a, b) => a - b));
      // Nothing of it has to be scrolled to.
      await expect
        .poll(() => panel.evaluate(({ scrollHeight, clientHeight }) => scrollHeight - clientHeight))
        .toBeLessThanOrEqual(0);
      expect(await page.evaluate(() => document.documentElement.scrollHeight)).toBeLessThanOrEqual(800);
    }
  });

  test('the lanes are made higher and lower, and stay so; what has no room then scrolls in itself', async ({
    page,
  }) => {
    await openJob(page, 'Cabin panel');
    await resultIsCurrent(page);
    await page.locator('body').press('5');
    const lane = page.getByRole('img', { name: /^Waveform of doors-closing/ });
    const height = async () => Math.round((await lane.boundingBox())?.height ?? 0);
    const divider = page.getByRole('separator', { name: 'Height of the lanes' });
    const [before, box] = [await height(), await inSight(page, divider)];
    await page.mouse.move(box.x + 50, box.y + 3);
    await page.mouse.down();
    await page.mouse.move(box.x + 50, box.y + 3 + 111);
    await page.mouse.up();
    await expect.poll(height).toBe(before + 60);
    await divider.focus();
    await page.keyboard.press('ArrowUp');
    await expect.poll(height).toBe(before + 52);
    const panel = page.getByRole('region', { name: 'Ends', exact: true });
    await panel.getByRole('switch').last().scrollIntoViewIfNeeded();
    expect(await panel.evaluate(({ scrollTop }) => scrollTop)).toBeGreaterThan(0);
    await inSight(page, lane);
    await page.reload();
    await resultIsCurrent(page);
    await expect.poll(height).toBe(before + 52);
    await divider.dblclick();
    await expect.poll(height).toBe(before);
  });

  test('beside the result stand the verdict and the next step, which one click takes', async ({ page }) => {
    await openJob(page, 'Station desk phones');
    await page.getByRole('button', { name: /^2 Summit tune/ }).click();
    const verdict = page.getByTestId('clip-verdict');
    await expect(verdict).toContainText('It is 3.390 s too long');
    await inSight(page, verdict);
    await verdict.getByRole('button', { name: 'Cut 3.390 s off the end' }).click();
    await resultIsCurrent(page);
    await expect(verdict).not.toContainText('breaks');
    await page.getByRole('button', { name: 'Undo' }).click();
    await expect(verdict).toContainText('breaks');
  });

  test('remarks are one line with their number; all facts come on demand, and nothing moves for them', async ({
    page,
  }) => {
    await openJob(page, 'Cabin panel');
    await resultIsCurrent(page);
    const before = await inSight(page, result(page));
    const remarks = page.getByRole('button', { name: /^2 remarks/ });
    await inSight(page, remarks);
    await remarks.click();
    await expect(page.getByText('there is nothing above 11\u202f000 Hz')).toBeVisible();
    expect(await result(page).boundingBox()).toEqual(before);
    await page.keyboard.press('Escape');
    await page.getByRole('button', { name: 'All facts' }).click();
    await expect(page.getByText('164\u202f946')).toHaveCount(2);
  });
});

test('where there is room, lanes, panel and sheet stand side by side', async ({ page }) => {
  await page.setViewportSize({ width: 1680, height: 1000 });
  await openJob(page, 'Cabin panel');
  await resultIsCurrent(page);
  await page.locator('body').press('3');
  const boxes = [
    await inSight(page, result(page)),
    await inSight(page, page.getByRole('region', { name: 'Rate', exact: true })),
    await inSight(page, page.getByTestId('target-sheet')),
  ];
  for (const [left, right] of [boxes.slice(0, 2), boxes.slice(1)]) {
    expect(left.x + left.width).toBeLessThanOrEqual(right.x);
  }
});

test.describe('390 px', () => {
  test.use({ viewport: { width: 390, height: 844 } });

  test('one part at a time; two hundred clips do not push the bench away; the transport is always there', async ({
    page,
  }) => {
    await manyClips(page, 200);
    await openJob(page, '200 gongs');
    await resultIsCurrent(page);
    await inSight(page, page.getByRole('img', { name: /^Waveform of gong/ }));
    const play = page.getByRole('button', { name: 'Play', exact: true });
    await inSight(page, play);
    await expect(page.getByRole('complementary', { name: 'Clips of the job' })).toBeHidden();

    await part(page, 'Clips 200').click();
    await inSight(page, page.getByRole('button', { name: 'Build set' }));
    await inSight(page, play);
    await expect(result(page)).toBeHidden();
    // Only rows that are seen are there.
    await page
      .getByRole('list', { name: 'Clips' })
      .evaluate((list) => list.parentElement?.scrollTo({ top: 149 * (list.clientHeight / 200) }));
    await page.getByRole('button', { name: /^150 Gong 150/ }).click();
    await expect(page.getByLabel('Name of the clip')).toHaveValue('Gong 150');
    await inSight(page, result(page));

    await part(page, 'Sheet').click();
    await inSight(page, page.getByRole('heading', { name: 'Target sheet' }));
    await inSight(page, play);
    await part(page, 'Bench').click();
    await expect(page.getByLabel('Name of the clip')).toHaveValue('Gong 150');
    // One line for the job, one for the views.
    const views = await inSight(page, page.getByRole('navigation', { name: 'Views' }));
    expect(views.height).toBeLessThan(40);
    expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
  });
});

test('in a small window files are seen coming in, and the first of them is then on the bench', async ({ page }) => {
  await page.goto('/');
  await page.getByRole('radio', { name: 'Desk phone ring tone' }).click();
  await page.setViewportSize({ width: 390, height: 844 });
  await page
    .getByLabel('Audio files')
    .setInputFiles([
      { name: 'notes.txt', mimeType: 'text/plain', buffer: Buffer.from('Trains run every ten minutes.') },
    ]);
  await inSight(page, page.getByRole('region', { name: 'Files coming in' }).getByRole('alert'));
  await page
    .getByLabel('Audio files')
    .setInputFiles([{ name: 'late bell.wav', mimeType: 'audio/wav', buffer: wavBytes(0.37) }]);
  await resultIsCurrent(page);
  await inSight(page, page.getByRole('img', { name: /^Waveform of late bell/ }));
});

test('files dropped together stand as they were dropped, the first is selected; a selected clip is seen in its list', async ({
  page,
}) => {
  await page.setViewportSize({ width: 1280, height: 800 });
  await manyClips(page, 60);
  await openJob(page, '60 gongs');
  await resultIsCurrent(page);
  // The first takes longer to come in than the others.
  const files = [40, 0.32, 0.33].map((seconds, i) => ({
    name: `bell ${i + 1}.wav`,
    mimeType: 'audio/wav',
    buffer: wavBytes(seconds),
  }));
  await page.getByLabel('Audio files').setInputFiles(files);
  const clips = page.getByRole('complementary', { name: 'Clips of the job' });
  await expect(clips.getByRole('button', { name: /^6[123] Bell/ })).toHaveText([/^61Bell 1/, /^62Bell 2/, /^63Bell 3/]);
  const selected = clips.locator('[aria-current=true]');
  await expect(selected).toHaveText(/^61Bell/);
  await inSight(page, selected);
});

test.describe('the lane of the source', () => {
  test.use({ viewport: { width: 1280, height: 800 } });

  const partOf = async (page: Page) => {
    const style = (await page.getByTestId('overview-view').getAttribute('style')) ?? '';
    const [left = Number.NaN, width = Number.NaN] = [...style.matchAll(/[\d.]+(?=%)/g)].map(Number);
    return { left, width };
  };
  const laneOf = async (page: Page) => {
    const box = await page.getByRole('img', { name: /^Waveform of doors-closing/ }).boundingBox();
    if (!box) throw new Error('no lane');
    return { at: (part: number) => [box.x + part * box.width, box.y + 0.75 * box.height] as const };
  };
  const value = (page: Page, edge: 'Start' | 'End') =>
    page
      .getByRole('slider', { name: `${edge} of the cut` })
      .getAttribute('aria-valuenow')
      .then(Number);

  test.beforeEach(async ({ page }) => {
    await openJob(page, 'Cabin panel');
    await resultIsCurrent(page);
  });

  test('is seen from all of it to single frames by the wheel, and says what is under the pointer', async ({ page }) => {
    const { at } = await laneOf(page);
    const reading = page.getByTestId('lane-reading');
    await page.mouse.move(...at(0.5));
    // The middle of 164 946 frames at 44 100 Hz.
    await expect(reading).toContainText('1.870 s · 82 473');
    for (let turns = 0; turns < 60 && (await partOf(page)).width > 0.005; turns++) await page.mouse.wheel(0, -120);
    await expect.poll(async () => (await partOf(page)).width).toBeLessThan(0.005);
    // What is under the pointer stays there.
    await page.mouse.move(...at(0.5));
    await expect(reading).toContainText(/1\.870 s · 82 47\d · [−\d.∞]+ dBFS/);
    for (let turns = 0; turns < 60; turns++) await page.mouse.wheel(0, 120);
    await expect.poll(async () => (await partOf(page)).width).toBe(100);
  });

  test('is seen where a drag across it went, moved by the overview and by keys, and a click moves the playhead', async ({
    page,
  }) => {
    const { at } = await laneOf(page);
    await page.mouse.move(...at(0.2));
    await page.mouse.down();
    await page.mouse.move(...at(0.3));
    await page.mouse.move(...at(0.4));
    await page.mouse.up();
    await expect.poll(async () => Math.round((await partOf(page)).left)).toBe(20);
    expect(Math.round((await partOf(page)).width)).toBe(20);
    await page.keyboard.press('.');
    await expect.poll(async () => Math.round((await partOf(page)).left)).toBe(25);
    const strip = await page.getByTestId('overview-view').locator('..').boundingBox();
    if (!strip) throw new Error('no overview');
    await page.mouse.click(strip.x + 0.9 * strip.width, strip.y + 10);
    await expect.poll(async () => Math.round((await partOf(page)).left)).toBe(80);
    await page.keyboard.press('0');
    await page.mouse.click(...at(0.1));
    // A tenth of 3.740 s, 1.900 s before the cut begins.
    await expect(page.getByRole('timer')).toContainText('−1.526 s');
  });

  test.describe('under fingers', () => {
    test.use({ hasTouch: true });

    test('is spread by two of them, and the last one to leave neither marks nor moves anything', async ({ page }) => {
      const { at } = await laneOf(page);
      const session = await page.context().newCDPSession(page);
      const touch = (type: 'touchStart' | 'touchMove' | 'touchEnd', ...places: readonly number[]) =>
        session.send('Input.dispatchTouchEvent', {
          type,
          touchPoints: places.map((place, id) => ({ x: at(place)[0], y: at(place)[1], id })),
        });
      await touch('touchStart', 0.4);
      await touch('touchStart', 0.4, 0.6);
      await touch('touchMove', 0.35, 0.65);
      await touch('touchMove', 0.2, 0.8);
      // A fifth of the source lies between them, which is now three fifths of the lane.
      await expect.poll(async () => Math.round((await partOf(page)).width)).toBe(33);
      const seen = await partOf(page);
      const time = await page.getByRole('timer').textContent();
      await touch('touchEnd', 0.2);
      await touch('touchMove', 0.5);
      await touch('touchEnd');
      await page.getByRole('button', { name: 'Zoom out' }).click();
      await expect.poll(async () => Math.round((await partOf(page)).width)).toBe(67);
      expect(Math.round(seen.left + seen.width / 2)).toBe(50);
      expect(await page.getByRole('timer').textContent()).toBe(time);
    });
  });

  test('takes the playhead as the start and the end of the cut, by a key each', async ({ page }) => {
    const { at } = await laneOf(page);
    await page.mouse.click(...at(0.55));
    await page.keyboard.press('i');
    await expect.poll(() => value(page, 'Start')).toBeGreaterThan(90_000);
    expect(await value(page, 'Start')).toBeLessThan(91_500);
    await page.mouse.click(...at(0.6));
    await page.keyboard.press('o');
    await expect.poll(() => value(page, 'End')).toBeLessThan(100_000);
    // An end before the start begins with the source.
    await page.mouse.click(...at(0.1));
    await page.getByRole('button', { name: 'End the cut at the playhead' }).click();
    await expect.poll(() => value(page, 'Start')).toBe(0);
    await page.keyboard.press('Control+z');
    await expect.poll(() => value(page, 'Start')).toBeGreaterThan(90_000);
  });

  test('says how long the cut is while one of its ends is held', async ({ page }) => {
    const end = page.getByRole('slider', { name: 'End of the cut' });
    await end.focus();
    await page.keyboard.press('Alt+ArrowLeft');
    const length = (await value(page, 'End')) - (await value(page, 'Start'));
    const count = (frames: number) => String(frames).replace(/\B(?=(\d{3})+$)/g, ' ');
    // At 16 000 Hz, in one byte each.
    const made = Math.round((length * 16_000) / 44_100);
    const reading = page.getByTestId('lane-reading');
    await expect(reading).toHaveText(
      `${(length / 44_100).toFixed(3)} s, ${count(length)} frames: ${count(made)} frames, ${(made / 1000).toFixed(1)} kB`,
    );
    // What is pointed at is said while the handle only has the focus.
    const { at } = await laneOf(page);
    await page.mouse.move(...at(0.5));
    await expect(reading).toContainText('1.870 s · 82 473');
  });
});

test('the cut and its end are played by a key; the volume stays; all keys are said', async ({ page }) => {
  await page.setViewportSize({ width: 1280, height: 800 });
  await openJob(page, 'Cabin panel');
  await resultIsCurrent(page);
  const pause = page.getByRole('button', { name: 'Pause', exact: true });
  const play = page.getByRole('button', { name: 'Play', exact: true });
  for (const key of ['p', 'e']) {
    await page.locator('body').press(key);
    await expect(pause).toBeVisible();
    // It ends by itself, as the cut does.
    await expect(play).toBeVisible();
  }
  await page.getByRole('button', { name: 'Listening' }).click();
  await page.getByRole('slider', { name: 'Volume' }).fill('0.4');
  await page.keyboard.press('Escape');
  await page.reload();
  await page.getByRole('button', { name: 'Listening' }).click();
  await expect(page.getByRole('slider', { name: 'Volume' })).toHaveValue('0.4');
  // What was kept and cannot be used is forgotten.
  await page.evaluate(() =>
    localStorage.setItem('tambur.listening', JSON.stringify({ state: { volume: 'loud', lead: 1e9 }, version: 0 })),
  );
  await page.reload();
  await page.getByRole('button', { name: 'Listening' }).click();
  await expect(page.getByRole('slider', { name: 'Volume' })).toHaveValue('1');
  await expect(page.getByRole('textbox', { name: 'Before the end' })).toHaveValue('30.0');
  await page.keyboard.press('Escape');
  await page.keyboard.press('Shift+Slash');
  await expect(page.getByRole('dialog', { name: 'Keys' }).getByText('Start the cut at the playhead')).toBeVisible();
});

test.describe('many clips', () => {
  const row = (page: Page, name: string) => page.getByRole('button', { name: new RegExp(`^\\d+ ${name}`) });
  const names = (page: Page) =>
    page
      .getByRole('list', { name: 'Clips' })
      .getByRole('button', { name: /^Move / })
      .evaluateAll((handles) => handles.map((handle) => handle.getAttribute('aria-label')?.slice(5)));

  test('several are picked, take the settings of one, are copied and removed, and every step can be gone back to', async ({
    page,
  }) => {
    await manyClips(page, 4);
    await openJob(page, '4 gongs');
    await resultIsCurrent(page);
    await page.locator('body').press('4');
    const level = page.getByRole('region', { name: 'Level', exact: true });
    const goal = (name: string) => level.getByRole('radio', { name, exact: true });
    await goal('To a loudness').click();
    await row(page, 'Gong 3').click({ modifiers: ['Shift'] });
    await expect(page.getByText('picked')).toHaveCount(2);
    await row(page, 'Gong 1').click({ modifiers: ['Control'] });
    await row(page, 'Gong 1').click({ modifiers: ['Control'] });
    const menu = page.getByRole('button', { name: 'What to do with the picked clips' });
    await menu.click();
    await page.getByRole('menuitem', { name: 'Settings of Gong 1 for the others picked' }).click();
    // The panel that was open is open for every clip.
    await row(page, 'Gong 3').click();
    await expect(goal('To a loudness')).toBeChecked();
    await menu.click();
    await page.getByRole('menuitem', { name: 'Duplicate the clip' }).click();
    await expect.poll(() => names(page)).toEqual(['Gong 1', 'Gong 2', 'Gong 3', 'Gong 5', 'Gong 4']);
    await row(page, 'Gong 5').press('Delete');
    await row(page, 'Gong 4').press('Alt+ArrowUp');
    await expect.poll(() => names(page)).toEqual(['Gong 1', 'Gong 2', 'Gong 4', 'Gong 3']);

    await expect(page.getByText('saved', { exact: true })).toBeVisible();
    await page.reload();
    await expect.poll(() => names(page)).toEqual(['Gong 1', 'Gong 2', 'Gong 4', 'Gong 3']);
    await page.getByRole('button', { name: 'Steps' }).click();
    const steps = page.getByRole('list', { name: 'Steps of the job' }).getByRole('button');
    await expect(steps).toHaveText([
      /^Gong 4: movednow$/,
      /^Gong 5: removed$/,
      /^Gong 5: added$/,
      /^2 clips: level$/,
      /^Gong 1: level$/,
      /^4 clips: added$/,
      /^Before all of these$/,
    ]);
    await steps.nth(2).click();
    await expect.poll(() => names(page)).toEqual(['Gong 1', 'Gong 2', 'Gong 3', 'Gong 5', 'Gong 4']);
    await expect(steps.first()).toHaveText('Gong 4: movedundone');
    await steps.first().click();
    await expect.poll(() => names(page)).toEqual(['Gong 1', 'Gong 2', 'Gong 4', 'Gong 3']);
  });

  test('those that are picked are dragged together, in one step', async ({ page }) => {
    await manyClips(page, 5);
    await openJob(page, '5 gongs');
    await resultIsCurrent(page);
    await row(page, 'Gong 2').click();
    await row(page, 'Gong 4').click({ modifiers: ['Control'] });
    const handle = await page.getByRole('button', { name: 'Move Gong 2', exact: true }).boundingBox();
    const last = await row(page, 'Gong 5').boundingBox();
    if (!handle || !last) throw new Error('there are no rows');
    await page.mouse.move(handle.x + handle.width / 2, handle.y + handle.height / 2);
    await page.mouse.down();
    await page.mouse.move(handle.x + handle.width / 2, handle.y + 40, { steps: 4 });
    await page.mouse.move(handle.x + handle.width / 2, last.y + last.height / 2, { steps: 8 });
    // The list says where it would go before it is let go of.
    await expect(page.locator('[aria-live=assertive]').filter({ hasText: /over/ })).toHaveCount(1);
    await drop(page);
    await expect.poll(() => names(page)).toEqual(['Gong 1', 'Gong 3', 'Gong 5', 'Gong 2', 'Gong 4']);
    await page.getByRole('button', { name: 'Undo', exact: true }).first().click();
    await expect.poll(() => names(page)).toEqual(['Gong 1', 'Gong 2', 'Gong 3', 'Gong 4', 'Gong 5']);
  });

  test('of all that are too long one way is taken at once, which is one step', async ({ page }) => {
    await page.goto('/');
    await page.getByRole('radio', { name: 'Two-way radio prompt' }).click();
    const files = [6, 5, 1].map((seconds) => ({
      name: `${seconds} s.wav`,
      mimeType: 'audio/wav',
      buffer: wavBytes(seconds),
    }));
    await page.getByLabel('Audio files').setInputFiles(files);
    await expect.poll(async () => (await names(page)).length).toBe(3);
    const troubles = page.getByText(/clips? do(es)? not meet the sheet/);
    await expect(troubles).toHaveText(/^2 clips do/);
    await page
      .getByRole('button', { name: /in 2 clips: all fit$/ })
      .first()
      .click();
    await expect(troubles).toHaveCount(0);
    await expect(page.getByText('saved', { exact: true })).toBeVisible();
    await page.getByRole('button', { name: 'Undo', exact: true }).first().click();
    await expect(troubles).toHaveText(/^2 clips do/);
  });

  test('a wish for all counts in each clip until that has its own, and another window follows', async ({
    page,
    context,
  }) => {
    await manyClips(page, 3);
    await openJob(page, '3 gongs');
    await resultIsCurrent(page);
    const other = await context.newPage();
    await other.goto(page.url());
    await resultIsCurrent(other);
    const level = (of: Page) => of.getByRole('region', { name: 'Level', exact: true });
    const goal = (of: Page, name: string) => level(of).getByRole('radio', { name, exact: true });
    for (const of of [page, other]) await of.locator('body').press('4');
    await goal(page, 'To a peak').click();
    await level(page).getByRole('button', { name: 'For all clips', exact: true }).click();
    await row(other, 'Gong 2').click();
    await expect(goal(other, 'To a peak')).toBeChecked();
    await expect(level(other).getByText('as for all clips')).toBeVisible();
    // One of its own, here automatic, and back.
    await goal(other, 'Automatic').click();
    await row(page, 'Gong 2').click();
    await expect(goal(page, 'Automatic')).toBeChecked();
    await level(page).getByRole('button', { name: 'As for all clips' }).click();
    await expect(goal(other, 'To a peak')).toBeChecked();
    await level(other).getByRole('button', { name: 'Not for all' }).click();
    await expect(goal(page, 'Automatic')).toBeChecked();
    await other.close();
  });

  test('a clip is split where the playhead is; both halves are as long as the whole', async ({ page }) => {
    await openJob(page, 'Cabin panel');
    await resultIsCurrent(page);
    const field = page.getByRole('textbox', { name: 'Length, frames' });
    const whole = Number((await field.inputValue()).replaceAll(/\D/g, ''));
    const before = await names(page);
    await page.locator('body').press('c');
    const box = await page.getByRole('img', { name: /^Waveform of doors-closing/ }).boundingBox();
    if (!box) throw new Error('there is no lane');
    await page.mouse.click(box.x + box.width / 3, box.y + box.height / 2);
    await page.locator('body').press('x');
    await expect.poll(() => names(page)).toHaveLength(before.length + 1);
    const lengths: number[] = [];
    for (const name of ['Doors closing 2', 'Doors closing']) {
      await row(page, name).first().click();
      await expect(page.getByRole('textbox', { name: 'Name of the clip' })).toHaveValue(name);
      lengths.push(Number((await field.inputValue()).replaceAll(/\D/g, '')));
    }
    expect(lengths.reduce((sum, frames) => sum + frames, 0)).toBe(whole);
    expect(lengths[1]).toBeGreaterThan(whole * 0.2);
    expect(lengths[1]).toBeLessThan(whole * 0.45);
    await page.getByRole('button', { name: 'Undo' }).click();
    await expect.poll(() => names(page)).toEqual(before);
  });
});

test('what is heard of a result of many blocks is the sound itself, piece for piece', async ({ page }) => {
  await page.addInitScript(() => {
    const played: number[][] = [];
    Object.assign(window, { played });
    const { start } = AudioBufferSourceNode.prototype;
    AudioBufferSourceNode.prototype.start = function (...when) {
      if (this.buffer) played.push([...this.buffer.getChannelData(0).subarray(0, 2000)]);
      start.apply(this, when);
    };
  });
  const bytes = wavBytes(7, 1);
  const sound = Float32Array.from(new Int16Array(bytes.buffer, bytes.byteOffset + 44, 7 * 44_100), (v) => v / 32_768);
  await page.goto('/');
  await page.getByRole('radio', { name: 'Archive copy' }).click();
  await page.getByLabel('Audio files').setInputFiles({ name: 'long.wav', mimeType: 'audio/wav', buffer: bytes });
  await resultIsCurrent(page);
  const length = () => page.evaluate(() => (window as unknown as { played: number[][] }).played.length);
  await page.getByRole('button', { name: 'Play', exact: true }).click();
  // Source and result run side by side, in pieces of a second.
  await expect.poll(length).toBeGreaterThan(7);
  const played = await page.evaluate(() => (window as unknown as { played: number[][] }).played);
  for (const piece of played) {
    const isOf = (at: number) => piece.every((value, i) => Math.abs(value - (sound[at + i] ?? 9)) < 2 / 32_768);
    expect([0, 1, 2, 3, 4, 5, 6].filter((second) => isOf(second * 44_100))).toHaveLength(1);
  }
});

test.describe('what a sheet asks', () => {
  // Sheets that are made here are not for the tests after these.
  test.afterEach(async ({ page }) => {
    const sheets = await (await page.request.get('/api/targets')).json();
    await page.goto('/');
    for (const { id, isOwn } of sheets) {
      if (!isOwn) continue;
      const jobs = await (await page.request.get('/api/jobs')).json();
      for (const job of jobs) if (job.sheet === id) await page.request.delete(`/api/jobs/${job.id}`);
      await page.request.delete(`/api/targets/${id}`);
    }
  });

  const seconds = (page: Page) => page.getByRole('list', { name: 'Clips' }).locator('.figure', { hasText: / s$/ });
  const frames = (tempo: number, bars: number) => Math.round((bars * 4 * 60 * 48_000) / tempo);

  test('is filled when a job starts and while it goes on, undone, refused, and kept as a sheet', async ({ page }) => {
    await page.goto('/');
    await page.getByRole('radio', { name: 'Loop player' }).click();
    const tempo = page.getByRole('textbox', { name: 'What is the tempo?' });
    await expect(tempo).toHaveValue('120');
    await tempo.fill('93');
    await tempo.press('Enter');
    await expect(page.getByText('bars: exactly 1, 2 or 4 bars of 4 beats at 93 a minute')).toBeVisible();
    await page.getByLabel('Audio files').setInputFiles('demo/sounds/summit-tune.ogg');
    await resultIsCurrent(page);
    const line = page.getByRole('list', { name: 'Stations' });
    const count = (n: number) => line.getByText(n.toLocaleString('en').replaceAll(',', '\u202f'), { exact: true });
    await expect(count(frames(93, 2))).toBeVisible();
    await expect(tempo).toHaveValue('93');
    // A note every 0.32 s: 187.5 a minute. Beside two bars at 93 it is 0.239 s long: 1 200 log2(5.4 / 5.161) cents.
    const sheet = page.getByTestId('target-sheet');
    await expect(sheet).toContainText('The cut is 0.239 s longer than 2 bars: it is cut.');
    await sheet.getByRole('button', { name: 'Play it faster, up by 78.3 cents instead' }).click();
    await expect(sheet).toContainText('it is played faster, up by 78.3 cents.');
    await expect(line.getByRole('button', { name: /^Ends/ })).toContainText('set by hand');
    await expect(count(frames(93, 2))).toBeVisible();
    await sheet.getByRole('button', { name: 'Cut it instead' }).click();
    await expect(sheet).toContainText('it is cut.');
    await sheet.getByRole('button', { name: 'Take the tempo 187.5' }).click();
    await expect(tempo).toHaveValue('187.5');
    for (let tap = 0; tap < 4; tap++) await sheet.getByRole('button', { name: 'Tap' }).click();
    await expect(tempo).not.toHaveValue('187.5');
    await tempo.fill('93');
    await tempo.press('Enter');

    await tempo.fill('5000');
    await tempo.press('Enter');
    await expect(page.getByRole('alert')).toHaveText(/bars, tempo: it must be 400 or less/);
    await expect(tempo).toHaveValue('93');
    await tempo.fill('100');
    await tempo.press('Enter');
    await expect(page.getByRole('alert')).toHaveCount(0);
    await expect(count(frames(100, 2))).toBeVisible();
    await expect(seconds(page)).toHaveText('4.800 s');
    await page.getByRole('button', { name: 'What is the tempo? As usual' }).click();
    await expect(count(frames(120, 2))).toBeVisible();
    await page.getByRole('button', { name: 'Undo' }).click();
    await expect(tempo).toHaveValue('100');
    await page.reload();
    await expect(tempo).toHaveValue('100');

    await page.getByRole('button', { name: 'Keep as a sheet of my own' }).click();
    await expect(page.getByText('Loop player, Loop player is among your target sheets')).toBeVisible();
    await page.getByRole('link', { name: 'Jobs', exact: true }).click();
    await page.getByRole('radio', { name: 'Loop player, Loop player' }).click();
    await expect(tempo).toHaveValue('100');
  });

  test('of a clip is the size of the old file, dropped; another clip has its own', async ({ page }) => {
    await page.goto('/');
    await page.getByRole('radio', { name: 'Console sound slot' }).click();
    await page
      .getByLabel('Audio files')
      .setInputFiles(['demo/sounds/brake-test.flac', 'demo/sounds/doors-closing.flac']);
    await resultIsCurrent(page);
    const size = page.getByRole('textbox', { name: 'How large is the sound that it replaces?' });
    await expect(size).toHaveValue('48000');
    await expect(page.getByRole('button', { name: /^Move / })).toHaveCount(2);
    // Which of the two is there first, nobody knows.
    const name = page.getByRole('textbox', { name: 'Name of the clip' });
    const first = await name.inputValue();
    const other = first === 'Brake test' ? 'Doors closing' : 'Brake test';
    const pick = (clip: string) => page.getByRole('button', { name: new RegExp(`^\\d ${clip}`) }).click();
    await page.getByLabel('The old file, for its size').setInputFiles('demo/sounds/gate-buzzer.raw');
    await expect(size).toHaveValue('9600');
    await expect(page.getByTestId('target-sheet')).toContainText('at most 9\u202f600 bytes');
    await pick(other);
    await expect(name).toHaveValue(other);
    await expect(size).toHaveValue('48000');
    await page.getByRole('button', { name: 'Undo' }).click();
    await pick(first);
    await expect(size).toHaveValue('48000');
  });

  test('is decided in the sheet itself', async ({ page }) => {
    await page.goto('/targets/portable-player');
    await page.getByRole('button', { name: 'Duplicate' }).click();
    await page.getByRole('button', { name: 'Add a question …' }).click();
    const choices = page.getByRole('option');
    await expect(choices.first()).toBeVisible();
    await choices.first().click();
    const question = page.getByRole('textbox', { name: 'Question' });
    await question.fill('How loud at most?');
    await page.getByRole('button', { name: 'Save' }).click();
    await expect(page.getByText('saved', { exact: true })).toBeVisible();
    await page.goto('/');
    await page.getByRole('radio', { name: 'Portable player, copy' }).click();
    await expect(page.getByRole('textbox', { name: 'How loud at most?' })).toBeVisible();
  });
});

test.describe('lanes', () => {
  /** Drags an end of the cut to a part of the lane's width. */
  async function drag(page: Page, edge: 'Start' | 'End', part: number) {
    const lane = await page.getByRole('img', { name: /^Waveform of long/ }).boundingBox();
    const handle = await page.getByRole('slider', { name: `${edge} of the cut` }).boundingBox();
    if (!lane || !handle) throw new Error('there is no lane');
    await page.mouse.move(handle.x + handle.width / 2, handle.y + handle.height / 2);
    await page.mouse.down();
    await page.mouse.move(lane.x + lane.width * part, lane.y + 0.75 * lane.height, { steps: 5 });
    await page.mouse.up();
  }
  const frames = async (page: Page, name: string) =>
    Number((await page.getByRole('textbox', { name: `${name}, frames` }).inputValue()).replaceAll(/\D/g, ''));

  test('a dragged end goes to zero crossings, or to whole blocks', async ({ page }) => {
    const bytes = wavBytes(1.7, 1);
    const sound = new Int16Array(bytes.buffer, bytes.byteOffset + 44, Math.round(1.7 * 44_100));
    await page.goto('/');
    await page.getByRole('radio', { name: 'Desk phone ring tone' }).click();
    await page.getByLabel('Audio files').setInputFiles({ name: 'long.wav', mimeType: 'audio/wav', buffer: bytes });
    await resultIsCurrent(page);
    const snap = (name: string) => page.getByRole('radio', { name, exact: true }).click();
    await snap('zero crossings');
    const isCrossing = (at: number) => sound[at] === 0 || (sound[at] ?? 0) > 0 !== (sound[at - 1] ?? 0) > 0;
    for (const part of [0.71, 0.64, 0.58]) {
      await drag(page, 'End', part);
      await expect.poll(async () => isCrossing(await frames(page, 'End'))).toBe(true);
    }
    await snap('whole blocks');
    await drag(page, 'Start', 0.2);
    // A block of 240 frames at 8 000 Hz are 1 323 of the source.
    await expect.poll(async () => (await frames(page, 'Length')) % 1323).toBe(0);
    await page.reload();
    await expect(page.getByRole('radio', { name: 'whole blocks' })).toBeChecked();
  });

  test('the result has its own time, or that of the source: then it lies below its cut', async ({ page }) => {
    await openJob(page, 'Cabin panel');
    await resultIsCurrent(page);
    const lane = await result(page).boundingBox();
    const handle = await page.getByRole('slider', { name: 'Start of the cut' }).boundingBox();
    if (!lane || !handle) throw new Error('there is no lane');
    const reading = page.getByTestId('lane-reading');
    const pointAt = (x: number) => page.mouse.move(x, lane.y + lane.height / 2);
    await pointAt(lane.x + 2);
    await expect(reading).toContainText(/^0\.00\d s/);
    await page.mouse.wheel(0, -300);
    await pointAt(lane.x + lane.width - 4);
    await expect(reading).toContainText(/^0\.[0-7]/);
    await page.locator('body').press('t');
    await pointAt(lane.x + 2);
    await expect(reading).toHaveCount(0);
    await pointAt(handle.x + handle.width / 2 + 2);
    await expect(reading).toContainText(/^0\.0[01]\d s/);
    // Both follow the same wheel.
    await page.mouse.wheel(0, -300);
    await expect(page.getByTestId('overview-view')).not.toHaveAttribute('style', /width: 100%/);
  });
});

/** Notes which buffers go into which gain, so that what is heard can be told from what is not. */
async function listenIn(page: Page) {
  await page.addInitScript(() => {
    const played: { samples: number[]; gain: GainNode }[] = [];
    Object.assign(window, { played });
    const { connect } = AudioNode.prototype;
    AudioNode.prototype.connect = function (this: AudioNode, ...to: unknown[]) {
      if (this instanceof AudioBufferSourceNode && this.buffer && to[0] instanceof GainNode) {
        played.push({ samples: [...this.buffer.getChannelData(0).subarray(0, 3000)], gain: to[0] });
      }
      return (connect as (...args: unknown[]) => AudioNode).apply(this, to);
    } as typeof connect;
  });
  return () =>
    page.evaluate(() =>
      (window as unknown as { played: { samples: number[]; gain: GainNode }[] }).played
        .filter(({ gain }) => gain.gain.value > 0.5)
        .map(({ samples }) => samples),
    );
}

test.describe('what takes long', () => {
  test.slow();

  test('has a whole from the server where the page has no room for it: it is read from there, and answers the sheet', async ({
    page,
  }) => {
    const audible = await listenIn(page);
    // One second again and again: 800 of them are 70 million samples.
    const seconds = 800;
    const second = wavBytes(1);
    const head = Buffer.from(second.subarray(0, 44));
    const samples = second.subarray(44);
    head.writeUInt32LE(36 + seconds * samples.length, 4);
    head.writeUInt32LE(seconds * samples.length, 40);
    const path = join(scratch(), 'long.wav');
    writeFileSync(path, Buffer.concat([head, ...Array.from({ length: seconds }, () => samples)]));
    const peak = Math.max(
      ...Array.from({ length: samples.length / 2 }, (_, i) => Math.abs(samples.readInt16LE(2 * i))),
    );
    const wanted = (frame: number) => (10 ** (-1 / 20) * samples.readInt16LE(4 * (frame % 44_100))) / peak;

    await page.goto('/');
    await page.getByRole('radio', { name: 'I2S amplifier board' }).click();
    await page.getByLabel('Audio files').setInputFiles(path);
    const sheet = page.getByTestId('target-sheet');
    await expect(page.getByTestId('piece')).toContainText(/provisional: the level · the whole \d+ %/);
    await resultIsCurrent(page);
    await expect(sheet.getByText('Of a piece, so far')).toBeVisible();
    await expect(sheet.getByText('with the whole')).not.toHaveCount(0);
    await expect(page.getByTestId('piece')).toHaveCount(0, { timeout: 240_000 });
    await expect(page.getByTestId('clip-verdict')).toContainText('the sheet');
    await expect(page.getByTestId('clip-verdict')).not.toContainText('as far as');
    await expect(sheet.getByText('Of a piece, so far')).toHaveCount(0);
    await expect(sheet.getByText('with the whole')).toHaveCount(0);
    await expect(sheet.getByText('-1.0 dBFS'.replace('-', '\u2212')).first()).toBeVisible();

    // A place in the middle of the result: what is heard there is what the file holds there.
    const lane = await result(page).boundingBox();
    if (!lane) throw new Error('there is no lane');
    await page.mouse.click(lane.x + lane.width / 2, lane.y + lane.height / 2);
    const [, digits = ''] = /([\d\s]+) frames/.exec((await page.getByRole('timer').textContent()) ?? '') ?? [];
    const frame = Number(digits.replace(/\D/g, '').slice(-8));
    expect(frame).toBeGreaterThan(300 * 44_100);
    await page.locator('body').press('Space');
    await expect.poll(async () => (await audible()).length).toBeGreaterThan(0);
    const [heard = []] = await audible();
    expect(heard).toHaveLength(3000);
    for (const [i, value] of heard.entries()) expect(Math.abs(value - wanted(frame + i))).toBeLessThan(3 / 32_768);

    // Nor has it room for what the device plays: its loudspeaker takes away what is below.
    await page.locator('body').press('Space');
    await page.locator('body').press('d');
    const device = page.getByRole('radio', { name: 'Device' });
    await expect(device).toBeChecked();
    await expect(device).toHaveAttribute('aria-busy', 'false', { timeout: 120_000 });
    await page.locator('body').press('p');
    const power = (sound: readonly number[]) => sound.reduce((sum, value) => sum + value * value, 0);
    await expect
      .poll(async () => {
        const [now = []] = await audible();
        const difference = power(now.map((value, i) => value - wanted(i)));
        const whole = power(now.map((_, i) => wanted(i)));
        // Turned in its phase by the loudspeaker, it still is that sound; of another, both powers would add up.
        return difference > 0.001 * whole && difference < whole && power(now) > 0.9 * whole;
      })
      .toBe(true);
  });

  test('is there as a piece at once, around the playhead; the whole follows', async ({ page }) => {
    // Four minutes of stereo take an encoder some ten seconds.
    const bytes = wavBytes(240);
    await page.goto('/');
    await page.getByRole('radio', { name: 'Portable player' }).click();
    await page.getByLabel('Audio files').setInputFiles({ name: 'long.wav', mimeType: 'audio/wav', buffer: bytes });
    const piece = page.getByTestId('piece');
    await expect(piece).toContainText('provisional: what MP3 loses');
    await resultIsCurrent(page);
    await expect(page.getByTestId('clip-verdict')).toContainText('as far as a piece tells');
    await expect(page.getByRole('img', { name: /^Waveform of the result, 4:00/ })).toBeVisible();
    // Another place is another piece.
    const lane = await page.getByRole('img', { name: /^Waveform of long/ }).boundingBox();
    if (!lane) throw new Error('there is no lane');
    await page.mouse.click(lane.x + lane.width / 2, lane.y + lane.height / 2);
    await resultIsCurrent(page);
    const made = await result(page).boundingBox();
    if (!made) throw new Error('there is no lane');
    await page.mouse.move(made.x + made.width / 2, made.y + made.height / 2);
    await expect(page.getByTestId('lane-reading')).toContainText(/^(2:0\d|1:5\d)\./);
    await expect(piece).toHaveCount(0, { timeout: 180_000 });
    await expect(page.getByTestId('clip-verdict')).toContainText('meets the sheet');
    await resultIsCurrent(page);
  });
});

test.describe('comparing', () => {
  async function compareLevels(page: Page, sheet: string) {
    const bytes = wavBytes(2, 1);
    await page.goto('/');
    await page.getByRole('radio', { name: sheet }).click();
    await page.getByLabel('Audio files').setInputFiles({ name: 'long.wav', mimeType: 'audio/wav', buffer: bytes });
    await resultIsCurrent(page);
    await page.locator('body').press('4');
    await page.getByRole('button', { name: 'Compare what else there is' }).click();
    await expect(page.getByText('being made')).toHaveCount(0);
    return Float32Array.from(new Int16Array(bytes.buffer, bytes.byteOffset + 44, 2 * 44_100), (v) => v / 32_768);
  }

  test('each alternative is heard from the same place, as it would be delivered, and one key takes it', async ({
    page,
  }) => {
    const audible = await listenIn(page);
    const sound = await compareLevels(page, 'Archive copy');
    const peak = sound.reduce((most, value) => Math.max(most, Math.abs(value)), 0);
    const rows = page.getByRole('table').getByRole('row');
    // By itself it stays as it is; then the peaks and loudnesses of the trade.
    await expect(rows).toHaveCount(1 + 6);
    for (const [key, db] of [
      ['4', -6],
      ['3', -3],
    ] as const) {
      await page.locator('body').press(key);
      const wanted = 10 ** (db / 20) / peak;
      await expect
        .poll(async () => {
          const heard = await audible();
          const isOf = (samples: number[], at: number) =>
            samples.every((value, i) => Math.abs(value - wanted * (sound[at + i] ?? 9)) < 2 / 32_768);
          return heard.length > 0 && heard.every((samples) => isOf(samples, 0) || isOf(samples, 44_100));
        })
        .toBe(true);
    }
    await page.locator('body').press('a');
    await expect(page.getByRole('radio', { name: 'To a peak', exact: true })).toBeChecked();
    await expect(page.getByRole('textbox', { name: 'Goal' })).toHaveValue('-3.0');
  });

  test('blind, answers are counted and their worth is told', async ({ page }) => {
    // The shuffle always puts the source first.
    await page.addInitScript(() => {
      Math.random = () => 0;
    });
    await compareLevels(page, 'Archive copy');
    await page.locator('body').press('3');
    // Its keys are its own: the bench below hears none of them.
    const heard = page.locator('table button[aria-pressed=true]');
    await page.getByRole('button', { name: 'Blind test …' }).click();
    await expect(page.getByText('Round 1')).toBeVisible();
    await expect(heard).toHaveCount(0);
    await page.locator('body').press('2');
    await expect(heard).toHaveText('peak −3.0 dBFS');
    await page.locator('body').press('1');
    await expect(heard).toHaveCount(0);
    await page.locator('body').press('2');
    await page.locator('body').press('a');
    await page.locator('body').press('r');
    await expect(heard).toHaveText('peak −3.0 dBFS');
    await page.getByRole('dialog').getByRole('button', { name: 'Close' }).click();
    await expect(page.getByRole('radio', { name: 'Automatic', exact: true })).toBeChecked();
    const ask = async (answers: readonly string[]) => {
      await page.getByRole('button', { name: 'Blind test …' }).click();
      for (const [i, answer] of answers.entries()) {
        await expect(page.getByText(`Round ${i + 1}`)).toBeVisible();
        await page.getByRole('button', { name: `The ${answer} is the source` }).click();
      }
      await page.getByRole('button', { name: 'Stop, and tell me' }).click();
    };
    await ask(['first', 'first', 'first', 'first', 'first']);
    await expect(page.getByRole('dialog')).toContainText('5 of 5 right.');
    // 1 of 32.
    await expect(page.getByRole('dialog')).toContainText('3.1 % of all such tests (binomial, p = 0.0313)');
    await expect(page.getByRole('dialog')).toContainText('You hear the difference');
    await page.getByRole('dialog').getByRole('button', { name: 'Close' }).last().click();
    await ask(['first', 'second', 'first', 'second', 'second', 'first']);
    await expect(page.getByRole('dialog')).toContainText('3 of 6 right.');
    await expect(page.getByRole('dialog')).toContainText('p = 0.6563');
    await expect(page.getByRole('dialog')).toContainText('Nothing shows that you hear a difference');
  });

  test('on the device its loudspeaker is heard; what it does not play, it says', async ({ page }) => {
    const audible = await listenIn(page);
    await openJob(page, 'Cabin panel');
    await resultIsCurrent(page);
    await page.getByRole('button', { name: 'Play', exact: true }).click();
    await expect.poll(async () => (await audible()).length).toBeGreaterThan(0);
    const [before = []] = await audible();
    // It is short and ends by itself: a key to stop it could come too late, and play it again.
    await expect(page.getByRole('button', { name: 'Play', exact: true })).toBeVisible();
    await page.locator('body').press('d');
    const device = page.getByRole('radio', { name: 'Device' });
    await expect(device).toBeChecked();
    // Until it is there the result is what is heard.
    await expect(device).toHaveAttribute('aria-busy', 'false');
    await page.locator('body').press('p');
    const power = (samples: readonly number[]) => samples.reduce((sum, value) => sum + value * value, 0);
    await expect
      .poll(async () => {
        const [now = []] = await audible();
        const difference = power(now.map((value, i) => value - (before[i] ?? 0)));
        return difference > 0.001 * power(before) && power(now) > 0.05 * power(before);
      })
      .toBe(true);
  });
});

test('whatever can be done is found by a few letters, also while something is typed', async ({ page }) => {
  await openJob(page, 'Cabin panel');
  await resultIsCurrent(page);
  const ask = page.getByRole('combobox', { name: 'Something to do' });
  const find = async (letters: string) => {
    await page.keyboard.press('Control+k');
    await ask.fill(letters);
    await expect(page.getByRole('option').first()).toBeVisible();
    await page.keyboard.press('Enter');
    await expect(ask).toHaveCount(0);
  };
  await page.getByRole('textbox', { name: 'Name of the clip' }).focus();
  await find('station rate');
  await expect(page.getByRole('region', { name: 'Rate', exact: true })).toBeVisible();
  await find('clip lower');
  await expect(page.getByRole('textbox', { name: 'Name of the clip' })).toHaveValue('Lower station');
  await find('duplicate');
  await expect(page.getByRole('button', { name: 'Move Lower station 2', exact: true })).toBeVisible();
  await find('undo');
  await expect(page.getByRole('button', { name: 'Move Lower station 2', exact: true })).toHaveCount(0);
  await page.keyboard.press('Control+k');
  await ask.fill('no such thing');
  await expect(page.getByText('Nothing here has that name.')).toBeVisible();
  await page.keyboard.press('Escape');
  await find('go shelf');
  await expect(page).toHaveURL(/\/shelf$/);
});

test('a job for an older edition of its sheet stays as it is, is told once what is new, and goes over with undo', async ({
  page,
}) => {
  const job: JobView = await (
    await page.request.post('/api/jobs', { data: { title: 'Older slot', sheet: 'console-sound-slot' } })
  ).json();
  const older = { revision: job.revision, change: { edition: 4 } };
  expect((await page.request.post(`/api/jobs/${job.id}/changes`, { data: older })).ok()).toBe(true);
  const unknown = { revision: job.revision + 1, change: { edition: 4000 } };
  expect((await page.request.post(`/api/jobs/${job.id}/changes`, { data: unknown })).ok()).toBe(false);

  await page.goto(`/jobs/${job.id}`);
  const offer = page.getByRole('region', { name: 'A newer edition of the sheet' });
  await expect(offer.getByRole('listitem')).toHaveText([
    'It asks for sample rate: 32\u202f000 Hz, no longer 4\u202f000 Hz or more, 32\u202f000 Hz or less.',
    'It only advises file size: at most 48\u202f000 bytes.',
    'It has to know: What rate does it play at? 32\u202f000 is taken until you say otherwise.',
  ]);
  await offer.getByRole('button', { name: 'Take edition 5' }).click();
  await expect(offer).toHaveCount(0);
  await page.getByRole('button', { name: 'Undo', exact: true }).click();
  await expect(offer).toBeVisible();
  await offer.getByRole('button', { name: 'Stay with edition 4' }).click();
  await expect(offer).toHaveCount(0);
  await expect(page.getByText('saved', { exact: true })).toBeVisible();
  await page.reload();
  await expect(page.getByRole('heading', { name: 'Older slot' })).toBeVisible();
  await expect(page.getByText('Drop audio here')).toBeVisible();
  await expect(offer).toHaveCount(0);
});
