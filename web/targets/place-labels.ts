import type { Target } from '@tambur/core';

/** Names of places by their numbers. */
export type Labels = NonNullable<Target['places']>['labels'];

const LINE = /^\s*(\d{1,6})[\s:=]+(\S.*?)\s*$/;

/** As lines of a text. */
export const labelText = (labels: Labels) =>
  Object.entries(labels)
    .map(([number, label]) => `${number} ${label}`)
    .join('\n');

/** Names of places as they are typed, a line for each; null if a line is none. */
export function labelsIn(text: string): Labels | null {
  const lines = text.split('\n').filter((line) => line.trim() !== '');
  const found = lines.map((line) => LINE.exec(line));
  if (found.some((match) => match === null)) return null;
  return Object.fromEntries(found.map((match) => [String(Number(match?.[1])), (match?.[2] ?? '').slice(0, 200)]));
}
