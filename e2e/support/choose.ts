import type { Locator, Page } from '@playwright/test';

/** Chooses from a list that opens: the list stands beside the page, not in it. */
export async function choose(where: Page | Locator, label: RegExp, option: string | RegExp): Promise<void> {
  const page = 'goto' in where ? where : where.page();
  await where.getByRole('button', { name: label }).first().click();
  await page.getByRole('option', { name: option, exact: typeof option === 'string' }).click();
}
