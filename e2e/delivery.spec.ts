import { spawn } from 'node:child_process';
import { readdirSync, readFileSync } from 'node:fs';
import { writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import type { APIRequestContext, Page } from '@playwright/test';
import type { DeliveryView, JobView } from '@tambur/server';
import { choose } from './support/choose.ts';
import { drop } from './support/drop.ts';
import { scratch, sha256, tambur, wavBytes, zipEntries } from './support/files.ts';
import { clip } from './support/jobs.ts';
import { expect, test } from './support/server.ts';

/** From the set to the card: places, names, lists, what is delivered, and the ways out. */

/** A job of sounds of different lengths, for a sheet. */
async function jobFor(
  request: APIRequestContext,
  sheet: string,
  names: readonly string[],
  secondsOf = (i: number) => 0.3 + i / 10,
): Promise<JobView> {
  const job: JobView = await (await request.post('/api/jobs', { data: { title: 'Ticket hut', sheet } })).json();
  const clips = [];
  for (const [i, name] of names.entries()) {
    const answer = await request.post(`/api/sources?name=${encodeURIComponent(name)}.wav`, {
      data: wavBytes(secondsOf(i), 1, 22_050),
      headers: { 'content-type': 'application/octet-stream' },
    });
    const { id } = await answer.json();
    clips.push(clip(id, name));
  }
  await request.post(`/api/jobs/${job.id}/clips`, { data: { clips } });
  return (await request.get(`/api/jobs/${job.id}`)).json();
}

/** What plays where, as the table shows it: "3 Bell". */
const placed = async (page: Page): Promise<string[]> => {
  const rows = page.getByRole('list', { name: 'Places of the set' }).getByRole('listitem');
  const texts = await rows.evaluateAll((items) =>
    items.map((item) =>
      Array.from(item.querySelectorAll('input'), ({ value }) => value)
        .slice(0, 2)
        .join(' '),
    ),
  );
  return texts.filter((text) => text !== '');
};

const saved = (page: Page) => expect(page.getByRole('status').filter({ hasText: /^saved$/ })).toBeVisible();

async function build(page: Page): Promise<DeliveryView> {
  await page.getByRole('button', { name: 'Build set' }).click();
  await expect(page.getByRole('link', { name: /Download the set/ })).toBeVisible();
  return (await page.request.get(`/api/deliveries/${page.url().split('/').pop()}`)).json();
}

test('a line of the set is heard, and says whether it fits', async ({ page, request }) => {
  const job = await jobFor(request, 'two-way-radio-prompt', ['Short', 'Long'], (i) => (i === 0 ? 0.5 : 30));
  await page.goto(`/jobs/${job.id}/set`);
  const lines = page.getByRole('list', { name: 'Places of the set' }).getByRole('listitem');
  await expect(lines.first()).toContainText('fits');
  await expect(lines.nth(1)).toContainText(/too long: the sheet allows/);
  await page.getByRole('button', { name: 'Play Long' }).press('Enter');
  await page.getByRole('button', { name: 'Stop Long' }).press('Enter');
  await expect(page.getByRole('button', { name: 'Play Long' })).toBeVisible();
});

test.describe('places', () => {
  test('by number, by key, by drag, at several, and back to the order; names follow', async ({ page, request }) => {
    const job = await jobFor(request, 'numbered-sound-module', ['Bell', 'Winch', 'Doors']);
    await page.goto(`/jobs/${job.id}/set`);
    await expect.poll(() => placed(page)).toEqual(['0 Bell', '1 Winch', '2 Doors']);

    await page.getByLabel('Place of Doors').fill('7');
    await page.getByLabel('Place of Doors').press('Enter');
    await expect.poll(() => placed(page)).toEqual(['0 Bell', '1 Winch', '7 Doors']);

    await page.getByLabel('Name at number 0').press('Alt+ArrowDown');
    await expect.poll(() => placed(page)).toEqual(['0 Winch', '1 Bell', '7 Doors']);

    const handle = page.getByRole('button', { name: 'Move Winch from number 0' });
    const to = page.getByLabel('Place of Doors');
    const [from, target] = [await handle.boundingBox(), await to.boundingBox()];
    if (!from || !target) throw new Error('nothing to drag');
    await page.mouse.move(from.x + 5, from.y + 5);
    await page.mouse.down();
    await page.mouse.move(from.x + 8, from.y + 30, { steps: 3 });
    await page.mouse.move(target.x + 5, target.y + 10, { steps: 5 });
    // However slow the page is, it has seen where the pointer is before the button is let go.
    await expect(page.locator('[data-row="place 7"]')).toHaveClass(/(^| )bg-pine-tint( |$)/);
    await drop(page);
    await expect.poll(() => placed(page)).toEqual(['0 Doors', '1 Bell', '7 Winch']);

    await page.getByRole('button', { name: 'Bell at another place too' }).click();
    await expect.poll(() => placed(page)).toEqual(['0 Doors', '1 Bell', '2 Bell', '7 Winch']);
    await saved(page);
    // Another order of the clips moves nothing.
    await page.getByRole('link', { name: 'Bench' }).click();
    await expect(page.getByRole('list', { name: 'Clips' })).toContainText('1 2');
    const delivery = await build(page);
    expect(delivery.artifacts.map(({ path, title }) => `${path} ${title}`)).toEqual([
      '0000.wav Doors',
      '0001.wav Bell',
      '0002.wav Bell',
      '0007.wav Winch',
      'slots.txt List file',
    ]);
    const folder = scratch();
    const zip = join(folder, 'card.zip');
    await writeFile(zip, await (await request.get(`/api/deliveries/${delivery.id}/zip`)).body());
    expect(zipEntries(zip)).toEqual(delivery.artifacts.map(({ path }) => path));
    expect(tambur('check', '--target', 'numbered-sound-module', zip).code).toBe(0);

    await page.goto(`/jobs/${job.id}/set`);
    await page.getByRole('button', { name: 'Back to the order of the clips' }).click();
    await expect.poll(() => placed(page)).toEqual(['0 Bell', '1 Winch', '2 Doors']);
    await page.getByRole('button', { name: 'Undo' }).click();
    await expect.poll(() => placed(page)).toEqual(['0 Doors', '1 Bell', '2 Bell', '7 Winch']);
  });

  test('a name is checked as it is typed; one that is taken is seen', async ({ page, request }) => {
    const job = await jobFor(request, 'telephone-system-message', ['Bell', 'Winch']);
    await page.goto(`/jobs/${job.id}/set`);
    const name = page.getByLabel('Name at line 2');
    await name.fill('bell');
    await expect(page.getByText(/^\d+ characters left$/)).toBeVisible();
    await name.fill('a very long name that no radio has any room for, however hard it tries to');
    await expect(page.getByText(/^\d+ too many: cut off$/)).toBeVisible();
    await name.fill('bell');
    await name.press('Enter');
    await page.getByLabel('Name at line 1').focus();
    await expect(page.getByText('bell is taken')).toBeVisible();
  });
});

test("the device's own list: shown before it is used, and built with its rows kept", async ({ page, request }) => {
  const job = await jobFor(request, 'desk-phone-ring-tone', ['Bell']);
  await page.goto(`/jobs/${job.id}/set`);
  const own = 'Old one;old.raw\r\nBell;bell.raw\r\n';
  const list = { name: 'ring-tones.txt', mimeType: 'text/plain', buffer: Buffer.from(own) };
  await page.getByLabel("The device's ring-tones.txt").setInputFiles(list);
  const dialog = page.getByRole('dialog');
  await expect(dialog).toContainText('Rows: 2 fields between semicolons. 2 stay, 0 are replaced, 0 come after them.');
  await dialog.getByRole('button', { name: 'Start from it' }).click();
  await expect(page.getByText("starts from the device's own")).toBeVisible();
  await page.getByLabel('Name at line 1').fill('Great bell');
  await page.getByLabel('Name at line 1').press('Enter');
  await page.getByRole('button', { name: 'Show the difference' }).click();
  await expect(dialog.getByLabel('The difference')).toContainText('+Great bell;great-bell.raw');
  await dialog.getByRole('button', { name: 'Cancel' }).click();
  await saved(page);
  await page.getByRole('link', { name: 'Bench' }).click();
  const delivery = await build(page);
  const text = await (await request.get(`/api/deliveries/${delivery.id}/files/ring-tones.txt`)).text();
  expect(text).toBe(`${own}Great bell;great-bell.raw\r\n`);
  const empty = { ...list, buffer: Buffer.from('nothing') };
  await page.goto(`/jobs/${job.id}/set`);
  await page.getByLabel("The device's ring-tones.txt").setInputFiles(empty);
  await expect(dialog.getByRole('alert')).toContainText('has no row that names a file');
});

test('a file looked into: findings with the way to their station, facts, text, bytes with what they say', async ({
  page,
  request,
}) => {
  const job = await jobFor(request, 'numbered-sound-module', ['Bell']);
  await page.goto(`/jobs/${job.id}`);
  await build(page);
  const panel = page.getByRole('region', { name: 'About 0000.wav' });
  await expect(panel).toContainText('meets all');
  await panel.getByRole('tab', { name: 'Bytes' }).click();
  const fields = panel.getByRole('list', { name: 'What the bytes say' });
  await expect(fields).toContainText(/22\s050 Hz/);
  // The rate stands at offset 24 of a WAV file.
  await panel.locator('[data-offset="24"]').hover();
  await expect(panel.getByRole('status')).toHaveText(/^0x000018 \(24\): sample rate, 22\s050 Hz$/);
  await panel.locator('[data-offset="46"]').hover();
  await expect(panel.getByRole('status')).toHaveText(/samples, frame 1: /);
  await panel.getByLabel('Go to offset').fill('0x30');
  await panel.getByLabel('Go to offset').press('Enter');
  await expect(panel.getByRole('status')).toHaveText(/^0x000030/);
  await panel.getByRole('region', { name: 'Bytes' }).press('ArrowDown');
  await expect(panel.getByRole('status')).toHaveText(/^0x000040/);
  await page.getByRole('button', { name: 'Show slots.txt' }).click();
  await expect(page.getByRole('region', { name: 'Text of slots.txt' })).toContainText('0000.wav');
  const [record] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('link', { name: /^Record of/ }).click(),
  ]);
  expect(readFileSync(await record.path(), 'utf8')).toContain('Came out, read again from its bytes:');
});

test('two deliveries compared: added, gone, changed', async ({ page, request }) => {
  const job = await jobFor(request, 'percussion-pad-sample', ['Bell', 'Winch']);
  await page.goto(`/jobs/${job.id}`);
  const first = await build(page);
  await page.getByRole('link', { name: 'Back to the bench' }).click();
  await page.getByRole('button', { name: 'Remove Winch' }).click();
  await saved(page);
  await build(page);
  await choose(page, /Compare with/, /^that of/);
  await expect(page.getByRole('region', { name: 'Compared with another delivery' })).toContainText(
    '0 added, 1 gone, 0 changed, 1 the same, byte for byte.',
  );
  expect(first.artifacts).toHaveLength(2);
});

test.describe('into a folder', () => {
  /** The browser's own file system stands in for a card: its handles are real ones. */
  async function cardIn(page: Page): Promise<void> {
    await page.addInitScript(() => {
      Object.assign(window, {
        showDirectoryPicker: async () =>
          (await navigator.storage.getDirectory()).getDirectoryHandle('card', { create: true }),
      });
    });
  }
  const filesOnCard = (page: Page) =>
    page.evaluate(async () => {
      const card = await (await navigator.storage.getDirectory()).getDirectoryHandle('card');
      const found: Record<string, number> = {};
      for await (const [name, handle] of card.entries()) {
        if (handle.kind === 'file') found[name] = (await (handle as FileSystemFileHandle).getFile()).size;
      }
      return found;
    });

  test('a fault in the middle leaves nothing in part; then all of it is there, read again', async ({
    page,
    request,
  }) => {
    await cardIn(page);
    const job = await jobFor(request, 'percussion-pad-sample', ['Bell', 'Doors', 'Winch']);
    await page.goto(`/jobs/${job.id}`);
    const delivery = await build(page);
    await page.evaluate(async () => {
      const card = await (await navigator.storage.getDirectory()).getDirectoryHandle('card', { create: true });
      for (const [name, text] of [
        ['.Trash', 'x'],
        ['bell.wav', 'an older one'],
      ] as const) {
        const stream = await (await card.getFileHandle(name, { create: true })).createWritable();
        await stream.write(text);
        await stream.close();
      }
      // The second file meets a full card, once.
      let writes = 0;
      const real = FileSystemFileHandle.prototype.createWritable;
      FileSystemFileHandle.prototype.createWritable = async function (...options) {
        const stream = await real.apply(this, options);
        if (++writes === 2) stream.write = () => Promise.reject(new Error('the card is full'));
        return stream;
      };
    });
    await page.getByRole('button', { name: 'Write into a folder …' }).click();
    const dialog = page.getByRole('dialog');
    await expect(dialog).toContainText('Replaced: 1 file of the same name.');
    await expect(dialog).toContainText(
      '1 file is there besides, 1 of them hidden. They stay. The sheet wants nothing else',
    );
    await dialog.getByRole('button', { name: 'Replace 1 file and write' }).click();
    await expect(dialog.getByRole('alert')).toHaveText(
      /^doors\.wav could not be written \(the card is full\); .*1 file is complete, and none is incomplete\.$/,
    );
    const sizeOf = (name: string) => delivery.artifacts.find(({ path }) => path === name)?.bytes;
    expect(await filesOnCard(page)).toEqual({ '.Trash': 1, 'bell.wav': sizeOf('bell.wav') });
    await dialog.getByRole('button', { name: 'Write again' }).click();
    await expect(dialog.getByRole('status')).toContainText('3 files written; read again, every byte is the same.');
    expect(await filesOnCard(page)).toEqual({
      '.Trash': 1,
      'bell.wav': sizeOf('bell.wav'),
      'doors.wav': sizeOf('doors.wav'),
      'winch.wav': sizeOf('winch.wav'),
    });
  });
});

test('for other devices: jobs of the same sources, what makes no sense there named, all of them built', async ({
  page,
  request,
}) => {
  const job = await jobFor(request, 'desk-phone-ring-tone', ['Bell']);
  const [first] = job.job.clips;
  if (!first) throw new Error('no clip');
  const wishes = { level: { gainDb: -3 }, wrap: { container: 'headerless', encoding: 'a-law' } };
  await request.post(`/api/jobs/${job.id}/changes`, {
    data: { revision: job.revision, change: { [`clips/${first.id}`]: { ...first, wishes } } },
  });
  await page.goto(`/jobs/${job.id}`);
  await page.getByRole('button', { name: 'For another device' }).click();
  const dialog = page.getByRole('dialog');
  await dialog.getByRole('checkbox', { name: 'Loop player' }).check();
  await dialog.getByRole('checkbox', { name: 'Percussion pad sample' }).check();
  await dialog.getByRole('checkbox', { name: /build all of them/ }).check();
  await dialog.getByRole('button', { name: 'Make 2 jobs' }).click();
  await expect(dialog.getByText('Left out, as it makes no sense there: Bell: wrap.')).toHaveCount(2);
  await dialog.getByRole('link', { name: 'its delivery' }).last().click();
  await expect(page.getByRole('link', { name: /Download the set/ })).toBeVisible();
});

test('a job exported, deleted, imported and built again, in the page and on the command line: the same bytes', async ({
  page,
  request,
}) => {
  const job = await jobFor(request, 'numbered-sound-module', ['Bell', 'Doors']);
  await page.goto(`/jobs/${job.id}/set`);
  await page.getByLabel('Place of Bell').fill('4');
  await page.getByLabel('Place of Bell').press('Enter');
  const own = { name: 'slots.txt', mimeType: 'text/plain', buffer: Buffer.from('9\told.wav\tOld\n') };
  await page.getByLabel("The device's slots.txt").setInputFiles(own);
  await page.getByRole('dialog').getByRole('button', { name: 'Start from it' }).click();
  await saved(page);
  await page.getByRole('link', { name: 'Bench' }).click();
  const before = await build(page);
  const hashes = ({ artifacts }: DeliveryView) => artifacts.map(({ path, sha256: hash }) => `${path} ${hash}`);
  const exported = await (await request.get(`/api/jobs/${job.id}/export`)).body();
  await request.delete(`/api/jobs/${job.id}`);
  const answer = await request.post('/api/jobs/import?name=hut.zip', {
    data: exported,
    headers: { 'content-type': 'application/octet-stream' },
  });
  const { id } = await answer.json();
  await page.goto(`/jobs/${id}`);
  const after = await build(page);
  expect(hashes(after)).toEqual(hashes(before));

  const folder = scratch();
  const zip = join(folder, 'hut.zip');
  await writeFile(zip, exported);
  const out = join(folder, 'card');
  const built = tambur('build', zip, '--out', out);
  expect([built.code, built.stderr]).toEqual([0, '']);
  expect(before.artifacts.map(({ path }) => `${path} ${sha256(readFileSync(join(out, path)))}`)).toEqual(
    hashes(before),
  );

  // Ended in the middle of it, nothing of the export lies about.
  const temporary = scratch();
  const args = ['build', zip, '--out', join(folder, 'again')];
  const ended = spawn('./tambur', args, { env: { ...process.env, TMPDIR: temporary }, stdio: 'ignore' });
  const end = new Promise((resolve) => ended.once('exit', resolve));
  let isOver = false;
  void end.then(() => {
    isOver = true;
  });
  await expect.poll(() => isOver || readdirSync(temporary).length > 0, { intervals: [5] }).toBe(true);
  ended.kill('SIGINT');
  await end;
  expect(readdirSync(temporary)).toEqual([]);
});
