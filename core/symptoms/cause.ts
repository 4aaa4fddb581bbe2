import type { Playing, Remedy, SymptomId } from '../standin/index.ts';
import type { Evidence } from './evidence.ts';

/** A cause that can produce a symptom on these very bytes. */
export interface Suspicion {
  /** For each symptom that it makes here: how strongly, 0..1. */
  readonly signs: Readonly<Partial<Record<SymptomId, number>>>;
  /** What was seen, in figures. */
  readonly seen: string;
  readonly mend: Remedy;
  /** What it sounds like; left out if nothing is heard of it. */
  readonly heard?: () => Playing;
}

/** What may be behind symptoms. */
export interface Cause {
  /** Stable name, in plain words. */
  readonly id: string;
  /** "It was made for another rate." */
  readonly title: string;
  /** How to tell it from others. */
  readonly tellApart: string;
  /** Tries itself on the very bytes; null if it is not behind anything here. */
  try(evidence: Evidence): Suspicion | null | Promise<Suspicion | null>;
}
