import type { Part, PartRules } from '@tambur/core';

/** Rules by which parts are found, and what was changed by hand since. */
export interface PartsEdit {
  readonly rules: Omit<PartRules, 'thresholdDb'>;
  /** dBFS; null as long as nobody has moved it: then the sound itself proposes one. */
  readonly thresholdDb: number | null;
  /** Null as long as the rules alone say. */
  readonly byHand: readonly Part[] | null;
  /** What `byHand` was before each change, the last one at the end. */
  readonly before: readonly (readonly Part[] | null)[];
}

export const START_EDIT: PartsEdit = {
  rules: { leastSilence: 0.35, leastPart: 0.15, margin: 0.05 },
  thresholdDb: null,
  byHand: null,
  before: [],
};

/** Other parts, set by hand. */
export const withParts = (edit: PartsEdit, parts: readonly Part[]): PartsEdit => ({
  ...edit,
  byHand: parts,
  before: [...edit.before, edit.byHand],
});

/** The last change by hand taken back. */
export const undone = (edit: PartsEdit): PartsEdit => ({
  ...edit,
  byHand: edit.before.at(-1) ?? null,
  before: edit.before.slice(0, -1),
});

/** Other rules: parts are found again, and what was changed by hand is gone. */
export function withRules(edit: PartsEdit, change: Partial<PartRules>): PartsEdit {
  const { thresholdDb, ...rules } = change;
  return {
    rules: { ...edit.rules, ...rules },
    thresholdDb: thresholdDb ?? edit.thresholdDb,
    byHand: null,
    before: [],
  };
}
