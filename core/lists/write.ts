import { ESCAPED } from './escape.ts';
import { FIELD, type ListFile, type ListRow, type Pack } from './list-file.ts';
import { textBytes } from './text.ts';

/** Rows as their template has them; none where it is empty. */
const rowsOf = (template: string, rows: readonly ListRow[], kind: ListFile['escape']): string[] =>
  template === ''
    ? []
    : rows.map((row) => template.replace(FIELD, (_, field: keyof ListRow) => ESCAPED[kind](String(row[field]))));

/** Parts that are not empty, each ended; every line of them ends as the device wants it. */
function lines(parts: readonly string[], lineEnd: ListFile['lineEnd']): string {
  const text = parts.flatMap((part) => (part === '' ? [] : [`${part}\n`])).join('');
  return lineEnd === '\n' ? text : text.replace(/\r?\n/g, lineEnd);
}

/** The bytes of a list file: header, rows, footer. */
export const listFileBytes = (list: ListFile, rows: readonly ListRow[]): Uint8Array<ArrayBuffer> =>
  textBytes(lines([list.header, ...rowsOf(list.row, rows, list.escape), list.footer], list.lineEnd), list.text);

/** The sounds of a set as texts that can stand in one file. */
export interface JoinedSounds {
  readonly contents: readonly string[];
  /** What stands between them. */
  readonly joint: string;
}

/** A file of all sounds, and where in its bytes each of them stands. */
export interface Packed {
  readonly bytes: Uint8Array<ArrayBuffer>;
  readonly places: readonly { readonly offset: number; readonly length: number }[];
}

/** The bytes of a pack: header, the sounds, index, a row for each, footer. */
export function packBytes(pack: Pack, rows: readonly ListRow[], { contents, joint }: JoinedSounds): Packed {
  const sounds = contents.map((text) => text.trimEnd());
  const encoded = new TextEncoder();
  const lengthOf = (text: string) => encoded.encode(text).length;
  let offset = lengthOf(lines([pack.header], '\n'));
  const places = sounds.map((text) => {
    const place = { offset, length: lengthOf(text) };
    offset += place.length + lengthOf(joint);
    return place;
  });
  const parts = [pack.header, sounds.join(joint), pack.index, ...rowsOf(pack.row, rows, 'none'), pack.footer];
  return { bytes: encoded.encode(lines(parts, '\n')), places };
}
