import { EMPTY_SHEET, freeId, latinWords, type Target, targetOf, type Variant, type WorkingJob } from '@tambur/core';
import type { SheetView } from '@tambur/server';
import { variantIn } from './variants.ts';

/** The sheet alone, as it is stored and passed on. */
export function sheetOf({ isOwn: _, usedBy: __, words: ___, ...sheet }: SheetView): Target {
  return sheet;
}

/** The sheet of a job in its edition, with its variants; undefined if it is not there any more, or lacks the job's. */
export function sheetOfJob(
  sheets: readonly SheetView[],
  { sheet: id, edition, variant }: Pick<WorkingJob, 'sheet' | 'edition' | 'variant'>,
): Target | undefined {
  const view = sheets.find((entry) => entry.id === id);
  const sheet = view && (view.isOwn ? sheetOf(view) : targetOf(id, edition));
  return sheet && variantIn(sheet, variant) === variant ? sheet : undefined;
}

/** An id made from a name: lower-case words joined by hyphens. */
export function idFrom(name: string): string {
  const words = latinWords(name);
  return (words.length ? words : ['sheet']).join('-').slice(0, 50).replace(/-+$/, '');
}

/** New variants get ids made from their names. Jobs know a variant by its id, so that stays when its name is changed. */
export function withIds(variants: readonly Variant[]): Variant[] {
  const taken = new Set(variants.map(({ id }) => id));
  return variants.map((entry) => {
    if (entry.id) return entry;
    const id = freeId(idFrom(entry.name), (wished) => taken.has(wished));
    taken.add(id);
    return { ...entry, id };
  });
}

/** A sheet that says nothing yet. */
export const newSheet = (): Target => ({
  ...EMPTY_SHEET,
  id: 'new-sheet',
  name: 'New sheet',
  about: '',
  naming: { separator: '-' },
});

/** A copy to be changed, with a name of its own. */
export const copyOf = (sheet: Target): Target => {
  const name = `${sheet.name.slice(0, 50)}, copy`;
  return { ...sheet, edition: 1, name, id: idFrom(name) };
};
