/** Words in which no number is parted from its unit where a line ends. */
export const unbroken = (words: string): string =>
  words.replace(/(\d) (?!(?:to|or|and|in|of|at)\b)(?=\p{L}|%)/gu, '$1\u00a0');
