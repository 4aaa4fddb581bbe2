/** What is selected in a list, and from where the next range reaches. */
export interface Selection {
  readonly ids: ReadonlySet<string>;
  readonly anchor: string | null;
}

export const nothingSelected: Selection = { ids: new Set(), anchor: null };

/**
 * A click on a row: alone it selects that row, with Ctrl it adds or takes away, with Shift it selects up to there from
 * where the last click was.
 */
export function clicked(
  selection: Selection,
  order: readonly string[],
  id: string,
  { shift, ctrl }: { readonly shift: boolean; readonly ctrl: boolean },
): Selection {
  const from = selection.anchor === null ? -1 : order.indexOf(selection.anchor);
  if (shift && from >= 0) {
    const to = order.indexOf(id);
    const range = order.slice(Math.min(from, to), Math.max(from, to) + 1);
    return { ids: new Set(ctrl ? [...selection.ids, ...range] : range), anchor: selection.anchor };
  }
  if (!ctrl) return { ids: new Set([id]), anchor: id };
  const ids = new Set(selection.ids);
  if (!ids.delete(id)) ids.add(id);
  return { ids, anchor: id };
}

/** Without what is no longer there. */
export function pruned(selection: Selection, order: readonly string[]): Selection {
  const ids = order.filter((id) => selection.ids.has(id));
  return ids.length === selection.ids.size ? selection : { ...selection, ids: new Set(ids) };
}
