import { wavBytes } from './support/files.ts';
import { expect, test } from './support/server.ts';

const file = (name: string, buffer: Buffer) => ({ name, mimeType: '', buffer });

test('any file is held against a sheet, and one that breaks it is made to fit', async ({ page }) => {
  await page.goto('/');
  await page.getByRole('link', { name: 'Check a file' }).click();
  await page.getByLabel('Device').selectOption('Telephone system message');
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
  await expect(entry('good morning.wav')).toContainText('use letters, digits, hyphen and underscore alone');
  await expect(entry('notes.wav').getByRole('alert')).toContainText('of no known kind');

  // The same files, for another device; nothing is dropped anew.
  await page.getByLabel('Device').selectOption('Desk phone ring tone');
  await expect(entry('1234.wav').getByText('mend: encode it as mu-law')).toBeVisible();
  // Bare samples are now read as that device reads them, and nobody can vouch for them.
  await expect(entry('notes.wav')).toContainText('does not meet the sheet');

  await entry('1234.wav').getByRole('button', { name: 'Make it fit' }).click();
  await expect(page.getByRole('heading', { name: 'Target sheet' })).toBeVisible();
  await expect(page.getByTestId('result-lane')).toHaveAttribute('data-current', 'true');
  await expect(page.getByTestId('target-sheet').getByText('meets', { exact: true })).toHaveCount(8);
});

test('every sheet can be read, and leads to a check', async ({ page }) => {
  await page.goto('/');
  await page.getByRole('link', { name: 'Targets' }).click();
  await expect(page.getByRole('navigation', { name: 'Target sheets' }).getByRole('link')).toHaveCount(9);
  await page.getByRole('link', { name: 'Two-way radio prompt' }).click();
  const sheet = page.getByRole('article');
  await expect(sheet.getByText('at most 56\u202f000 bytes')).toBeVisible();
  await expect(sheet.getByText('advised', { exact: true })).toHaveCount(2);
  await expect(sheet.getByText('at most 3.497 s, 27\u202f978 frames')).toBeVisible();
  await page.getByRole('link', { name: 'Try a file against this' }).click();
  await expect(page.getByLabel('Device')).toHaveValue('two-way-radio-prompt');
  await page.goto('/targets/toaster');
  await expect(page.getByText('There is no sheet of that name.')).toBeVisible();
});
