import type { Finding } from '@tambur/core';

/** One row of the sheet: what the source was, and what the result is. */
export interface SheetRow {
  /** What is wanted: either finding says it. */
  readonly about: Finding;
  /** Null where only the result has it, such as the headroom. */
  readonly was: Finding | null;
  /** Null where there is no answer yet. */
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
