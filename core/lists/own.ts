import { InputError } from '../words/index.ts';
import { ESCAPED, UNESCAPED } from './escape.ts';
import type { ListFile, ListRow } from './list-file.ts';
import { LARGEST_LIST } from './read.ts';
import { textBytes, textOf } from './text.ts';

/** A value in a row of a list, and where in the text it stands. */
interface Cell {
  /** What tells it from the others of its row: its position, or the names of its element and attribute. */
  readonly key: string;
  readonly start: number;
  readonly end: number;
  /** As it is meant, without what keeps it apart from the list. */
  readonly value: string;
}

interface Row {
  readonly start: number;
  readonly end: number;
  readonly cells: readonly Cell[];
}

/** How the rows of a list are made, learned from those that are there. */
interface Shape {
  /** What stands between its fields; null in XML. */
  readonly separator: string | null;
  readonly rows: readonly Row[];
  /** Which cell names the file, the sound, and the number; null if none does. */
  readonly file: string;
  readonly name: string | null;
  readonly number: string | null;
}

/** A list of the device's own with rows of a set in it. */
export interface MergedList {
  readonly bytes: Uint8Array<ArrayBuffer>;
  /** The rows as they were learned: "3 fields between semicolons", "the element sound". */
  readonly shape: string;
  /** Names of files. */
  readonly added: readonly string[];
  readonly replaced: readonly string[];
  /** Rows that stay as they were. */
  readonly kept: number;
}

const BYTE_ORDER_MARK = '\ufeff';

/** In which of the encodings that lists have a text is written: by its mark, or because it is UTF-8, or is not. */
function encodingOf(bytes: Uint8Array): ListFile['text'] {
  if (bytes[0] === 0xff && bytes[1] === 0xfe) return 'utf-16le';
  try {
    new TextDecoder('utf-8', { fatal: true }).decode(bytes);
    return 'utf-8';
  } catch {
    return 'latin-1';
  }
}

/** What a list file says, in whatever encoding it is. */
export const readBytesAsText = (bytes: Uint8Array): string => textOf(bytes, encodingOf(bytes));

/** No file system has longer paths in its lists. */
const LONGEST_PATH = 255;

/** True for what names a file: a path whose last part ends with an extension. */
const isFile = (value: string): boolean =>
  value.length <= LONGEST_PATH && /[^\\/. ]\.[A-Za-z][A-Za-z0-9]{0,4}$/.test(value) && !/[<>"|?*\t\r\n]/.test(value);

/** What stands between fields, likeliest first. */
const SEPARATORS: Readonly<Record<string, string>> = {
  '\t': 'tabs',
  ';': 'semicolons',
  ',': 'commas',
  '|': 'bars',
  '=': 'equals signs',
};

/** The fields of one line. */
function cellsOfLine(line: string, offset: number, separator: string): Cell[] {
  const cells: Cell[] = [];
  const cell = new RegExp(`[ ]*("(?:[^"]|"")*"|[^${separator}]*)(?:[${separator}]|$)`, 'gy');
  while (cell.lastIndex <= line.length) {
    const at = cell.lastIndex;
    const match = cell.exec(line);
    if (!match) return [];
    const text = (match[1] ?? '').trimEnd();
    const start = offset + at + match[0].indexOf(match[1] ?? '');
    cells.push({ key: String(cells.length), start, end: start + text.length, value: UNESCAPED.csv(text) });
    if (cell.lastIndex === line.length && !match[0].endsWith(separator)) break;
  }
  return cells;
}

/** Rows of separated text: the lines that have as many fields as most of those in which a file is named. */
function separatedRows(text: string, separator: string): readonly Row[] {
  const found: Row[] = [];
  for (const { 0: line, index } of text.matchAll(/[^\r\n]+/g)) {
    const cells = cellsOfLine(line, index, separator);
    if (cells.some(({ value }) => isFile(value))) found.push({ start: index, end: index + line.length, cells });
  }
  const counts = new Map<number, number>();
  for (const { cells } of found) counts.set(cells.length, (counts.get(cells.length) ?? 0) + 1);
  const [usual] = [...counts].sort((a, b) => b[1] - a[1])[0] ?? [0];
  return found.filter(({ cells }) => cells.length === usual);
}

/** The fields of the line before the first row, if it has as many: words over the columns. */
function headingsOf(text: string, rows: readonly Row[], separator: string): readonly string[] {
  const [first] = rows;
  const above = first ? (/([^\r\n]+)[\r\n]+$/.exec(text.slice(0, first.start))?.[1] ?? '') : '';
  const cells = cellsOfLine(above.replace(/^[#;/\s]+/, ''), 0, separator);
  return cells.length === first?.cells.length ? cells.map(({ value }) => value) : [];
}

/**
 * XML in which comments are spaces, and sections of characters (CDATA) hold nothing that looks like markup: every other sign stays
 * at its place.
 */
const withoutComments = (text: string): string =>
  text
    .replace(/<!--[\s\S]*?-->/g, (comment) => ' '.repeat(comment.length))
    .replace(/<!\[CDATA\[([\s\S]*?)\]\]>/g, (_, inside: string) => {
      const plain = inside.replace(/[<>]/g, '\u0001');
      return `${CDATA_START}${plain}${CDATA_END}`;
    });

/** Stand where `<![CDATA[` and `]]>` do, as long as they are. */
const CDATA_START = '\u0002'.repeat('<![CDATA['.length);
const CDATA_END = '\u0003'.repeat(']]>'.length);

/** The attributes and texts of an element, by the names of what they stand in. */
function cellsOfElement(text: string, offset: number): Cell[] {
  const cells: Cell[] = [];
  const seen = new Map<string, number>();
  const add = (name: string, start: number, text: string, value = UNESCAPED.xml(text)) => {
    const count = seen.get(name) ?? 0;
    seen.set(name, count + 1);
    const key = count ? `${name} ${count}` : name;
    cells.push({ key, start, end: start + text.length, value });
  };
  for (const { 0: tag, 1: name = '', 2: inside = '', 3: content = '', index } of text.matchAll(
    /<([A-Za-z_][\w.:-]*)((?:\s+[\w.:-]+\s*=\s*(?:"[^"]*"|'[^']*'))*)\s*\/?>([^<]*)/g,
  )) {
    const from = offset + index + tag.indexOf(inside, 1 + name.length);
    for (const { 1: attribute = '', 2: value = '', 0: whole, index: at } of inside.matchAll(
      /([\w.:-]+)\s*=\s*["']([^"']*)["']/g,
    )) {
      add(`${name}@${attribute}`, from + at + whole.length - 1 - value.length, value);
    }
    const trimmed = content.trim();
    const start = offset + index + tag.length - content.length + content.indexOf(trimmed);
    const isData = trimmed.startsWith(CDATA_START) && trimmed.endsWith(CDATA_END);
    if (isData) add(name, start, trimmed, trimmed.slice(CDATA_START.length, -CDATA_END.length));
    else if (trimmed) add(name, start, trimmed);
  }
  return cells;
}

/** A list has few kinds of elements. */
const MOST_ELEMENTS = 50;

/** Rows of XML: the occurrences of the outermost element that names one file in each of them. */
function elementRows(written: string): { readonly rows: readonly Row[]; readonly element: string } | null {
  const text = withoutComments(written);
  const names = new Set([...text.matchAll(/<([A-Za-z_][\w.:-]*)/g)].map(([, name]) => name ?? ''));
  let best: { rows: readonly Row[]; element: string } | null = null;
  for (const element of [...names].slice(0, MOST_ELEMENTS)) {
    const quoted = element.replaceAll('.', '\\.');
    const whole = new RegExp(
      `<${quoted}(?=[\\s/>])[^>]*?(?:/>|>(?:(?!<${quoted}[\\s/>])[\\s\\S])*?</${quoted}\\s*>)`,
      'g',
    );
    const rows = [...text.matchAll(whole)].map(({ 0: row, index }) => ({
      start: index,
      end: index + row.length,
      cells: cellsOfElement(row, index),
    }));
    const isRow = ({ cells }: Row) => cells.filter(({ value }) => isFile(value)).length === 1;
    // The root of a document stands there once, around everything.
    const isRoot =
      rows.length === 1 && rows[0]?.start === text.search(/<[A-Za-z_]/) && text.trimEnd().length === rows[0].end;
    if (rows.length === 0 || isRoot || !rows.every(isRow)) continue;
    const isOuter = !best || (rows[0]?.start ?? 0) < (best.rows[0]?.start ?? 0);
    if (!best || rows.length > best.rows.length || (rows.length === best.rows.length && isOuter))
      best = { rows, element };
  }
  return best;
}

const valuesOf = (rows: readonly Row[], key: string) =>
  rows.flatMap(({ cells }) => cells.find((cell) => cell.key === key)?.value ?? []);

/** Words in a heading that say what a column of numbers is (from memory). */
const NUMBERING = /^(n|no|nr|num|number|id|index|idx|slot|place|pos|position|key|track|button|entry|#)\.?$/i;
const FIGURES =
  /vol|gain|rate|level|length|duration|second|size|bytes|pitch|speed|tempo|loop|pause|fade|prio|\b(k?hz|db|len|dur|sec|ms|pan|bpm|start|end)\b/i;

/**
 * True for numbers that count rows: each one more than the one before, but for gaps, or a heading that says so. A column of volumes
 * or rates may have a number for each row too, but no such order.
 */
function isNumbering(values: readonly string[], heading: string): boolean {
  const numbers = values.map(Number);
  if (new Set(numbers).size < numbers.length) return false;
  if (NUMBERING.test(heading.trim())) return true;
  if (FIGURES.test(heading)) return false;
  const rises = numbers.every((value, i) => i === 0 || value > (numbers[i - 1] ?? 0));
  // Half of the places between the first and the last may be free.
  return rises && numbers.length > 0 && Math.max(...numbers) - Math.min(...numbers) < 2 * numbers.length;
}

/**
 * Tells the cells of rows apart by what is in them.
 * @param headingOf what the list calls a cell, by its key; "" if it has no word for it
 */
function shapeOf(rows: readonly Row[], separator: string | null, headingOf: (key: string) => string): Shape | null {
  const keys = rows[0]?.cells.map(({ key }) => key) ?? [];
  const most = (key: string, is: (value: string) => boolean) => {
    const values = valuesOf(rows, key);
    return values.length > 0 && values.filter(is).length / values.length;
  };
  const [file] = keys
    .filter((key) => most(key, isFile))
    .sort((a, b) => Number(most(b, isFile)) - Number(most(a, isFile)));
  if (file === undefined) return null;
  const isNumber = (value: string) => /^\d{1,6}$/.test(value);
  const number = keys.find((key) => {
    const values = valuesOf(rows, key);
    const isWhole = key !== file && values.length === rows.length && values.every(isNumber);
    return isWhole && isNumbering(values, headingOf(key));
  });
  const others = keys.filter((key) => key !== file && key !== number);
  const name = others.find((key) => most(key, (value) => /\p{L}/u.test(value) && !isFile(value)) === 1);
  return { separator, rows, file, name: name ?? null, number: number ?? null };
}

/** How the rows of a text are made; null if no row can be seen. */
function learn(text: string): (Shape & { readonly words: string }) | null {
  if (/^\s*(<\?xml|<!--|<[A-Za-z_])/.test(text)) {
    const found = elementRows(text);
    // Cells of XML are called by their elements and attributes.
    const shape = found && shapeOf(found.rows, null, (key) => key.replace(/^.*@/, ''));
    return shape && { ...shape, words: `the element ${found.element}` };
  }
  let best: (Shape & { readonly words: string }) | null = null;
  for (const [separator, words] of Object.entries(SEPARATORS)) {
    const rows = separatedRows(text, separator);
    const headings = headingsOf(text, rows, separator);
    const shape = shapeOf(rows, separator, (key) => headings[Number(key)] ?? '');
    const fields = shape?.rows[0]?.cells.length ?? 0;
    // Where a separator never comes, a line is one field; then any other that comes tells more.
    if (!shape || (best && (fields < 2 || shape.rows.length < best.rows.length))) continue;
    const isBetter = !best || shape.rows.length > best.rows.length || (best.rows[0]?.cells.length ?? 0) < 2;
    if (isBetter) best = { ...shape, words: fields > 1 ? `${fields} fields between ${words}` : 'a file in each line' };
  }
  return best;
}

/** What stands before the name in a path, its last slash included: lists of devices write either kind. */
const beforeName = (path: string) => path.slice(0, Math.max(path.lastIndexOf('/'), path.lastIndexOf('\\')) + 1);
const nameIn = (path: string) => path.slice(beforeName(path).length);

/** A number as those that are there are written: with as many digits. */
const asNumbers = (numbers: readonly string[], value: number): string => {
  const width = numbers.every((text) => text.length === numbers[0]?.length) ? (numbers[0]?.length ?? 0) : 0;
  return String(value).padStart(numbers.some((text) => text.startsWith('0') && text.length > 1) ? width : 0, '0');
};

/** Separators of CSV: what holds them is quoted. Around others quotes mean nothing. */
const QUOTED = [',', ';'];

/** A value as it stands in a row; quotes stay where they were. */
function written(value: string, separator: string | null, before: string): string {
  if (before.startsWith('<![CDATA[')) return `<![CDATA[${value.replaceAll(']]>', ']]]]><![CDATA[>')}]]>`;
  if (separator === null) return ESCAPED.xml(value);
  if (before.startsWith('"')) return `"${value.replaceAll('"', '""')}"`;
  return QUOTED.includes(separator) ? ESCAPED.csv(value) : value.replaceAll(separator, ' ');
}

/**
 * The list that the device has now, with the rows of a set in it. What is there stays as it is, in its order, encoding and lines;
 * a row of the set takes the place of the one with its number, or with its file, or comes after the last one.
 * @param isNumbered true if the numbers of the set are those of the device's places
 * @throws InputError with code `cannot-read` if no row can be seen in it
 */
export function mergeList(
  own: Uint8Array,
  list: Pick<ListFile, 'path'>,
  rows: readonly ListRow[],
  isNumbered: boolean,
): MergedList {
  const refuse = (why: string) =>
    new InputError(
      'cannot-read',
      `The list ${nameIn(list.path)} of the device ${why}; take another, or go without it.`,
    );
  if (own.length > LARGEST_LIST) throw refuse('is larger than 1 MB');
  const encoding = encodingOf(own);
  const decoded = textOf(own, encoding);
  const hasMark = encoding === 'utf-8' && own[0] === 0xef && own[1] === 0xbb && own[2] === 0xbf;
  const text = decoded.startsWith(BYTE_ORDER_MARK) ? decoded.slice(1) : decoded;
  const shape = learn(text);
  if (!shape) throw refuse('has no row that names a file, from which Tambur could learn how rows are made');
  const { file, name, number, separator } = shape;
  const textIn = (row: Row, key: string | null) => row.cells.find((cell) => cell.key === key)?.value;
  const last = shape.rows.at(-1);
  const first = shape.rows[0];
  if (!last || !first) throw refuse('has no row');
  const folder = beforeName(textIn(last, file) ?? '');
  const numbers = number === null ? [] : valuesOf(shape.rows, number);
  let nextNumber = Math.max(-1, ...numbers.map(Number));

  /** A row that is there, with other values where the set has some. */
  const withValues = (row: Row, { displayName, fileName }: ListRow, numberText: string | null): string => {
    const fresh = new Map([
      [file, folder + fileName],
      ...(name === null ? [] : [[name, displayName] as const]),
      ...(number === null || numberText === null ? [] : [[number, numberText] as const]),
    ]);
    let out = '';
    let at = row.start;
    for (const { key, start, end } of row.cells.toSorted((a, b) => a.start - b.start)) {
      const value = fresh.get(key);
      if (value === undefined) continue;
      out += text.slice(at, start) + written(value, separator, text.slice(start, end));
      at = end;
    }
    return out + text.slice(at, row.end);
  };

  const replacing = new Map<Row, string>();
  const added: string[] = [];
  const addedNames: string[] = [];
  const replacedNames: string[] = [];
  for (const fresh of rows) {
    const isSameFile = (row: Row) => nameIn(textIn(row, file) ?? '').toLowerCase() === fresh.fileName.toLowerCase();
    const isSameNumber = (row: Row) => isNumbered && Number(textIn(row, number)) === fresh.slot;
    const isFree = (row: Row) => !replacing.has(row);
    const there =
      shape.rows.find((row) => isFree(row) && number !== null && isSameNumber(row)) ??
      shape.rows.find((row) => isFree(row) && isSameFile(row) && !(number !== null && isNumbered));
    if (there) {
      const row = withValues(there, fresh, number === null ? null : (textIn(there, number) ?? ''));
      replacing.set(there, row);
      if (row !== text.slice(there.start, there.end)) replacedNames.push(fresh.fileName);
      continue;
    }
    nextNumber++;
    const row = withValues(last, fresh, asNumbers(numbers, isNumbered ? fresh.slot : nextNumber));
    // A comment within a row is about that row.
    added.push(separator === null ? row.replace(/<!--[\s\S]*?-->/g, '') : row);
    addedNames.push(fresh.fileName);
  }

  // Between two rows stands what stands between those that are there, or an end of line.
  const beforeLast = shape.rows.at(-2);
  const lineEnd = text.includes('\r\n') ? '\r\n' : text.includes('\n') || !text.includes('\r') ? '\n' : '\r';
  const indent = /[ \t]*$/.exec(text.slice(0, last.start))?.[0] ?? '';
  const between = beforeLast ? text.slice(beforeLast.end, last.start) : `${lineEnd}${separator === null ? indent : ''}`;
  const gap = /^\s+$/.test(between) ? between : lineEnd;
  // The last row keeps its end of line; those that are added have the same.
  const lastEnd = /^[ \t]*(?:\r\n|\r|\n)/.exec(text.slice(last.end))?.[0];
  const within = gap.replace(/^[ \t]*(?:\r\n|\r|\n)/, '');
  let out = hasMark ? BYTE_ORDER_MARK : '';
  let at = 0;
  for (const row of shape.rows) {
    out += text.slice(at, row.start) + (replacing.get(row) ?? text.slice(row.start, row.end));
    at = row.end;
  }
  out +=
    lastEnd === undefined
      ? added.map((row) => gap + row).join('') + text.slice(at)
      : lastEnd + added.map((row) => within + row + lastEnd).join('') + text.slice(at + lastEnd.length);
  return {
    bytes: textBytes(out, encoding),
    shape: shape.words,
    added: addedNames,
    replaced: replacedNames,
    kept: shape.rows.length - replacedNames.length,
  };
}
