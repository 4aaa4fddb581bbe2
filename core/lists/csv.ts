import { oneLine } from '../words/index.ts';
import { ESCAPED } from './escape.ts';

/** A text as a cell of a table: one line, and nothing that a spreadsheet takes for a formula, which begins with such a sign. */
export const safeCell = (text: string): string => oneLine(text).replace(/^(?=[=+\-@])/, ' ');

/** Rows of cells as CSV (RFC 4180): lines end with CR and LF. */
export const csvText = (rows: readonly (readonly string[])[]): string =>
  rows.map((cells) => `${cells.map((cell) => ESCAPED.csv(safeCell(cell))).join(',')}\r\n`).join('');

/** What stands between cells, likeliest first. */
const SEPARATORS = ['\t', ';', ','] as const;

/** Cells of CSV or of separated text, row by row; the separator is the first of its kind in the first line. Blank lines are none. */
export function parseCsv(text: string): readonly (readonly string[])[] {
  const plain = text.replace(/^\ufeff/, '');
  const [first = ''] = plain.split(/\r\n|\r|\n/, 1);
  const separator = SEPARATORS.find((sign) => first.includes(sign)) ?? ',';
  const rows: string[][] = [];
  let row: string[] = [];
  // A cell in quotes with all that is in it, or whatever stands before the next separator or end of line.
  const cell = new RegExp(`(?:"([^"]*(?:""[^"]*)*)"|([^${separator}\\r\\n]*))(${separator}|\\r\\n|\\r|\\n|$)`, 'gy');
  while (cell.lastIndex < plain.length) {
    const match = cell.exec(plain);
    // What follows a closing quote belongs to nothing.
    if (!match) break;
    const [, quoted, bare = '', end] = match;
    row.push(quoted === undefined ? bare : quoted.replaceAll('""', '"'));
    if (end === separator) {
      // Behind the last separator of a text there is one more cell, an empty one.
      if (cell.lastIndex < plain.length) continue;
      row.push('');
    }
    if (row.some((value) => value.trim() !== '')) rows.push(row);
    row = [];
  }
  return rows;
}
