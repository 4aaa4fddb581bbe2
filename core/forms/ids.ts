import * as v from 'valibot';

/** Id of a thing in a document: lower-case words joined by hyphens. */
export const idSchema = v.pipe(
  v.string(),
  v.regex(/^[a-z0-9]+(-[a-z0-9]+)*$/, 'an id has lower-case letters and digits, words joined by hyphens'),
  v.maxLength(60),
);

/** The first of "bell", "bell-2", "bell-3" that is free and no longer than an id may be. */
export function freeId(wished: string, isTaken: (id: string) => boolean): string {
  const LONGEST = 60;
  let id = wished.slice(0, LONGEST);
  for (let count = 2; isTaken(id); count++) {
    const end = `-${count}`;
    id = wished.slice(0, LONGEST - end.length) + end;
  }
  return id;
}

/** The first id that occurs twice; undefined if none does. */
export function doubled(ids: readonly string[]): string | undefined {
  const seen = new Set<string>();
  return ids.find((id) => seen.size === seen.add(id).size);
}
