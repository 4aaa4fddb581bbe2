import { type Target, withVariant } from '@tambur/core';
import type { SheetView } from '@tambur/server';

/** The sheet alone, as it is stored and passed on. */
export function sheetOf({ isOwn: _, usedBy: __, ...sheet }: SheetView): Target {
  return sheet;
}

/** The sheet that a job is made for, in its variant; undefined where it is not there any more. */
export function sheetForJob(
  sheets: readonly SheetView[],
  job: { readonly targetId: string; readonly variantId: string | null },
): Target | undefined {
  const sheet = sheets.find(({ id }) => id === job.targetId);
  return sheet && withVariant(sheetOf(sheet), job.variantId);
}

/** An id made from a name: lower-case words joined by hyphens. */
export function idFrom(name: string): string {
  const words = name
    .normalize('NFKD')
    .toLowerCase()
    .match(/[a-z0-9]+/g);
  return (words ?? ['sheet']).join('-').slice(0, 50).replace(/-+$/, '');
}

/** A copy to be changed, with a name of its own. */
export const copyOf = (sheet: Target): Target => {
  const name = `${sheet.name.slice(0, 50)}, copy`;
  return { ...sheet, name, id: idFrom(name) };
};
