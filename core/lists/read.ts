import type { ByteFile } from '../bytes/index.ts';
import { safeIdentifier } from '../containers/index.ts';
import { UNESCAPED } from './escape.ts';
import { FIELD, type ListFile, type ListRow } from './list-file.ts';
import { textOf } from './text.ts';

/** A row of a list file as a device reads it: the fields that it shows, as texts. */
export type ReadRow = { readonly [F in keyof ListRow]?: string };

export interface ReadList {
  readonly rows: readonly ReadRow[];
  /** Lines that are neither rows nor of what stands around them, with their numbers from 1. */
  readonly strange: readonly { readonly line: number; readonly text: string }[];
  /** True if it is larger than any list of a device: only its beginning was read. */
  readonly isTooLarge: boolean;
}

/** Bytes of a list file; no device has a larger one. */
export const LARGEST_LIST = 1_000_000;

const quoted = (text: string) => text.replace(/[.*+?^${}()|[\]\\]/g, '\\$&');

/** What may stand in a field: where a list is CSV, a text in quotes with all that is in it. */
const IN_FIELD = { none: '.*?', xml: '.*?', csv: '"[^"]*(?:""[^"]*)*"|.*?' } as const satisfies Record<
  ListFile['escape'],
  string
>;

/** Finds a row, and what its fields say; a field that is shown twice counts where it stands first. */
function rowPattern({ row: template, escape: kind }: ListFile): RegExp {
  const seen = new Set<string>();
  let pattern = '';
  let at = 0;
  for (const match of template.matchAll(FIELD)) {
    const field = match[1] ?? '';
    pattern +=
      quoted(template.slice(at, match.index)) +
      (seen.has(field) ? `(?:${IN_FIELD[kind]})` : `(?<${field}>${IN_FIELD[kind]})`);
    seen.add(field);
    at = match.index + match[0].length;
  }
  return new RegExp(`^${pattern}${quoted(template.slice(at))}$`, 's');
}

const linesOf = (text: string) => text.split(/\r\n|\r|\n/);

/**
 * A list file as the device that wants it reads it: by lines, whichever way they end. Blank lines and those of header and
 * footer are skipped.
 */
export function readListFile(file: ByteFile, list: ListFile): ReadList {
  const isTooLarge = file.size > LARGEST_LIST;
  const bytes = file.read(0, Math.min(file.size, LARGEST_LIST));
  const around = new Set([list.header, list.footer].flatMap(linesOf));
  const all = linesOf(textOf(bytes, list.text));
  // Where the reading stops, a line is cut in two.
  if (isTooLarge) all.pop();
  const pattern = rowPattern(list);
  const tall = linesOf(list.row).length;
  const rows: ReadRow[] = [];
  const strange: { line: number; text: string }[] = [];
  for (let i = 0; i < all.length; ) {
    const line = all[i] ?? '';
    const row = list.row === '' ? null : pattern.exec(all.slice(i, i + tall).join('\n'));
    if (row && !around.has(line)) {
      const fields = Object.entries(row.groups ?? {}).map(([field, text]) => [field, UNESCAPED[list.escape](text)]);
      rows.push(Object.fromEntries(fields));
      i += tall;
    } else {
      if (line.trim() !== '' && !around.has(line)) strange.push({ line: i + 1, text: line });
      i++;
    }
  }
  return { rows, strange, isTooLarge };
}

const stemOf = (name: string) => name.replace(/\.[^.]*$/, '');

/** Finds the file that a row is about among files of such names; of names that come to one, the first. */
export function rowFinder(names: readonly string[]): (row: ReadRow) => string | undefined {
  const by = (keyOf: (name: string) => string) =>
    new Map(names.toReversed().map((name) => [keyOf(name), name] as const));
  const byName = by((name) => name);
  const byStem = by(stemOf);
  const byIdentifier = by((name) => safeIdentifier(stemOf(name)));
  return ({ fileName, stem, identifier }) => {
    if (fileName !== undefined) return byName.get(fileName);
    return stem !== undefined ? byStem.get(stem) : byIdentifier.get(identifier ?? '');
  };
}

/** What a row calls its file. */
export const calledIn = ({ fileName, stem, identifier, displayName }: ReadRow): string =>
  fileName ?? stem ?? identifier ?? displayName ?? 'a row';
