import { formatBytes, formatCount } from '../words/index.ts';

/** Limits for JSON from outside, checked before it is parsed. */
export interface Budget {
  /** UTF-16 units of the text. */
  readonly length: number;
  /** Entries of all its lists and objects together. */
  readonly entries: number;
}

/** Levels of lists and objects within each other. Parsers call themselves for each; no document of ours is nested so deeply. */
const DEEPEST = 60;

/** Documents, and the body of a request. A job of 1 000 clips and a delivery of as many files stay well within. */
export const BUDGETS = {
  sheet: { length: 1_000_000, entries: 20_000 },
  job: { length: 16_000_000, entries: 300_000 },
  delivery: { length: 50_000_000, entries: 2_000_000 },
  manifest: { length: 8_000_000, entries: 100_000 },
  request: { length: 4_000_000, entries: 200_000 },
} as const satisfies Readonly<Record<string, Budget>>;

/** Which limit is exceeded, in words, and at which offset. */
export interface Excess {
  readonly message: string;
  readonly offset: number;
}

const tooDeep = `it is nested more than ${DEEPEST} deep`;

const QUOTE = 0x22;
const BACKSLASH = 0x5c;
const COMMA = 0x2c;
const OPENING = [0x5b, 0x7b];
const CLOSING = [0x5d, 0x7d];

const tooMany = (entries: number) => `it has more than ${formatCount(entries)} entries`;

/** The first limit that a parsed value exceeds, in words; null if it exceeds none. */
export function excessOfValue(value: unknown, { entries }: Pick<Budget, 'entries'>): string | null {
  let layer: readonly unknown[] = [value];
  let count = 0;
  for (let depth = 0; layer.length > 0; depth++) {
    if (depth > DEEPEST) return tooDeep;
    const next: unknown[] = [];
    for (const entry of layer) {
      if (typeof entry !== 'object' || entry === null) continue;
      const inside = Object.values(entry);
      count += inside.length;
      if (count > entries) return tooMany(entries);
      for (const value of inside) next.push(value);
    }
    layer = next;
  }
  return null;
}

/** The first limit that JSON text exceeds; null if it exceeds none. Reads the text once. */
export function excessOf(text: string, { length, entries }: Budget): Excess | null {
  if (text.length > length) return { message: `it is larger than ${formatBytes(length)}`, offset: length };
  let depth = 0;
  let count = 0;
  let isInString = false;
  for (let at = 0; at < text.length; at++) {
    const sign = text.charCodeAt(at);
    if (isInString) {
      if (sign === BACKSLASH) at++;
      else if (sign === QUOTE) isInString = false;
    } else if (sign === QUOTE) isInString = true;
    else if (CLOSING.includes(sign)) depth--;
    else if (sign === COMMA || OPENING.includes(sign)) {
      if (sign !== COMMA && ++depth > DEEPEST) return { message: tooDeep, offset: at };
      if (++count > entries) return { message: tooMany(entries), offset: at };
    }
  }
  return null;
}
