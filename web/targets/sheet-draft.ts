import type { Target } from '@tambur/core';
import { withIds } from '../job/sheets.ts';
import { withUsualInPlace } from './questions.ts';

/** What the form holds as a sheet: new variants get their ids, and what is left out is not there. */
export function cleaned(values: Target): Target {
  const known = Object.entries(values).filter(([, entry]) => entry !== undefined);
  const sheet = { ...(Object.fromEntries(known) as Target), variants: withIds(values.variants) };
  return { ...sheet, blanks: withUsualInPlace(sheet) };
}

/** A sheet as a text by which two can be compared. */
export const textOf = (sheet: Target): string =>
  JSON.stringify(Object.entries(sheet).sort(([a], [b]) => (a < b ? -1 : 1)));
