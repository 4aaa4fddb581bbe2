import type { Finding, Verdict } from '@tambur/core';

/** One row of the sheet: what the source was, and what the result is. */
export interface SheetRow {
  /** What is wanted: either finding says it. */
  readonly about: Finding;
  /** Null if only the result has it, such as the headroom. */
  readonly was: Finding | null;
  /** Null if there is no answer yet. */
  readonly is: Finding | null;
}

/** What a finding is about. What wants something else, such as another variant, is another row. */
const aboutOf = ({ requirement, wanted }: Finding): string => `${requirement} ${wanted}`;

/** Findings of the source and of the result that are about the same, side by side, in the order of the sheet. */
export function sheetRows(before: readonly Finding[], after: readonly Finding[]): readonly SheetRow[] {
  const answers = new Map(after.map((finding) => [aboutOf(finding), finding]));
  const asked = new Set(before.map(aboutOf));
  return [
    ...before.map((was) => ({ about: was, was, is: answers.get(aboutOf(was)) ?? null })),
    ...after.filter((finding) => !asked.has(aboutOf(finding))).map((is) => ({ about: is, was: null, is })),
  ];
}

/** Rows in the order in which they matter: what breaks, what is advised, what is not known or not answered, what meets. */
const ORDER: readonly (Verdict | undefined)[] = ['breaks', 'advises', 'unknown', undefined, 'meets'];

/** So many that meet are shown beside trouble, and without any; of more, only their number. */
const MOST_BESIDE = 6;
const MOST_ALONE = 12;

/** The rows as they are read: what is to be looked at first, and what meets, folded where there is much of it. */
export function readingOrder(rows: readonly SheetRow[]): {
  readonly open: readonly SheetRow[];
  readonly folded: readonly SheetRow[];
} {
  const sorted = ORDER.flatMap((verdict) => rows.filter(({ is }) => is?.verdict === verdict));
  const met = sorted.filter(({ is }) => is?.verdict === 'meets');
  const others = sorted.slice(0, sorted.length - met.length);
  const isMuch = met.length > (others.length > 0 ? MOST_BESIDE : MOST_ALONE);
  return isMuch ? { open: others, folded: met } : { open: sorted, folded: [] };
}
