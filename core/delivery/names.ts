/** Longest stem that is made: room for an extension and a counter below what every file system takes. */
const LONGEST = 60;

/** Names that some file systems keep for devices, with or without an extension (common practice, no source). */
const RESERVED = /^(con|prn|aux|nul|com\d|lpt\d)$/;

/**
 * The one function that makes names safe: from any text to lower-case letters, digits and the separator. Never empty,
 * never a path, never a reserved name.
 */
export function safeStem(text: string, separator: '-' | '_'): string {
  const words = text
    .replace(/ß/g, 'ss')
    .normalize('NFKD')
    .replace(/\p{M}+/gu, '')
    .toLowerCase()
    .match(/[a-z0-9]+/g);
  const stem = (words ?? ['clip'])
    .join(separator)
    .slice(0, LONGEST)
    .replace(/[-_]+$/, '');
  return RESERVED.test(stem) ? `${stem}${separator}clip` : stem;
}

/** Safe stems for a set, in order; a stem that was taken gets the next free number: bell, bell-2, bell-3. */
export function stemsOf(names: readonly string[], separator: '-' | '_'): string[] {
  const taken = new Set<string>();
  return names.map((name) => {
    const stem = safeStem(name, separator);
    let free = stem;
    for (let count = 2; taken.has(free); count++) free = `${stem}${separator}${count}`;
    taken.add(free);
    return free;
  });
}
