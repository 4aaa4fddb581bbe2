import { randomUUID } from 'node:crypto';
import { expect, type Page } from '@playwright/test';
import { newClip, ranksAfter } from '@tambur/core';

/** A clip of a source as it is added to a job: all of it, or a cut. */
export const clip = (source: string, name: string, cut?: { readonly start: number; readonly end: number }) => {
  const { pieces } = newClip(randomUUID(), name, source, cut);
  return { name, pieces };
};

interface Putting extends ReturnType<typeof clip> {
  readonly id?: string;
  readonly wishes?: object;
}

/** Clips as one change puts them into a job, in their order. */
export function putting(clips: readonly Putting[]) {
  const ranks = ranksAfter([], clips.length);
  return Object.fromEntries(
    clips.map(({ id = randomUUID(), name, pieces, wishes = {} }, i) => [
      `clips/${id}`,
      { id, name, pieces, wishes, values: {}, rank: ranks[i] },
    ]),
  );
}

/** Opens a station's panel, unless it is open: the page remembers which one was. */
export async function openStation(page: Page, title: string): Promise<void> {
  const button = page.getByRole('list', { name: 'Stations' }).getByRole('button', { name: new RegExp(`^${title}`) });
  if ((await button.getAttribute('aria-expanded')) !== 'true') await button.click();
  await expect(page.getByRole('region', { name: title, exact: true })).toBeVisible();
}
