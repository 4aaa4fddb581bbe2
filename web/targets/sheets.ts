import { latinWords, type Target, withVariant } from '@tambur/core';
import type { SheetView } from '@tambur/server';
import { variantIn } from './variants.ts';

/** The sheet alone, as it is stored and passed on. */
export function sheetOf({ isOwn: _, usedBy: __, words: ___, ...sheet }: SheetView): Target {
  return sheet;
}

/** The sheet that a job is made for, in its variant; undefined where one of them is not there any more. */
export function sheetForJob(
  sheets: readonly SheetView[],
  job: { readonly targetId: string; readonly variantId: string | null },
): Target | undefined {
  const sheet = sheets.find(({ id }) => id === job.targetId);
  return sheet && variantIn(sheet, job.variantId) === job.variantId
    ? withVariant(sheetOf(sheet), job.variantId)
    : undefined;
}

/** An id made from a name: lower-case words joined by hyphens. */
export function idFrom(name: string): string {
  const words = latinWords(name);
  return (words.length ? words : ['sheet']).join('-').slice(0, 50).replace(/-+$/, '');
}

type Variants = NonNullable<Target['variants']>;

/** New variants get ids made from their names. Jobs know a variant by its id, so that stays when its name is changed. */
export function withIds(variants: Variants): Variants {
  const taken = new Set(variants.map(({ id }) => id));
  return variants.map((entry) => {
    if (entry.id) return entry;
    const wished = idFrom(entry.name);
    let id = wished;
    for (let count = 2; taken.has(id); count++) id = `${wished}-${count}`;
    taken.add(id);
    return { ...entry, id };
  });
}

/** A copy to be changed, with a name of its own. */
export const copyOf = (sheet: Target): Target => {
  const name = `${sheet.name.slice(0, 50)}, copy`;
  return { ...sheet, name, id: idFrom(name) };
};
