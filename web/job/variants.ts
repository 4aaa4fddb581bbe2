import type { Target } from '@tambur/core';
import type { SheetView } from '@tambur/server';

/** The chosen variant, as long as the sheet has it: null for none. */
export const variantIn = ({ variants }: Pick<Target, 'variants'>, id: string | null): string | null =>
  variants.some((entry) => entry.id === id) ? id : null;

/** The requirements of a sheet, or of one of its variants, in words. */
export const wordsOf = ({ words }: SheetView, variantId: string | null): readonly string[] =>
  words[variantId ?? ''] ?? [];

/** What a job is made for, in words; its ids where that is not there any more. */
export function deviceOf(
  sheets: readonly SheetView[],
  { sheet: sheetId, variant: variantId }: { readonly sheet: string; readonly variant: string | null },
): string {
  const sheet = sheets.find(({ id }) => id === sheetId);
  const variant = sheet?.variants.find(({ id }) => id === variantId);
  return [sheet?.name ?? sheetId, ...(variantId ? [variant?.name ?? variantId] : [])].join(', ');
}
