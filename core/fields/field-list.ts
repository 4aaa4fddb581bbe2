import { type ByteFile, latin1, viewOf } from '../bytes/index.ts';
import { formatCount } from '../words/index.ts';

/** A stretch of a file's bytes and what it says. */
export interface ByteField {
  readonly start: number;
  /** Behind its last byte. */
  readonly end: number;
  readonly name: string;
  /** In words; empty if the name says all. */
  readonly value: string;
  readonly kind: 'header' | 'tag' | 'sound' | 'other';
}

/** Puts values into words. */
type Words = (value: number) => string;

/** Kinds of file whose fields are known: by what they begin with. A new one: its file, and its entry in `list.ts`. */
export interface FieldReader {
  recognises(head: Uint8Array): boolean;
  read(fields: FieldList): void;
}

/** More fields than that nobody looks at. */
const MOST_FIELDS = 400;

/** Goes through a file from its start, and notes what each stretch says. What is behind the end of the file is not noted. */
export class FieldList {
  readonly file: ByteFile;
  readonly found: ByteField[] = [];
  at = 0;
  little = true;

  constructor(file: ByteFile) {
    this.file = file;
  }

  /** True while so many bytes are left, and the list is not too long. */
  has(bytes: number): boolean {
    return this.at + bytes <= this.file.size && this.found.length < MOST_FIELDS;
  }

  peek(bytes: number, from = this.at): Uint8Array {
    return this.file.read(from, from + bytes);
  }

  peekText(bytes: number, from = this.at): string {
    return latin1(this.peek(bytes, from));
  }

  /** Notes so many bytes and goes on behind them; a size that a damaged file says may be below nothing, and is nothing then. */
  note(name: string, bytes: number, value: string, kind: ByteField['kind'] = 'header'): void {
    const end = Math.min(this.file.size, this.at + Math.max(0, bytes));
    if (end > this.at) this.found.push({ start: this.at, end, name, value, kind });
    this.at = end;
  }

  text(name: string, bytes: number, kind: ByteField['kind'] = 'header'): string {
    const value = this.peekText(bytes);
    this.note(name, bytes, value.replace(/[^\x20-\x7e\xa0-\xff]/g, '\u00b7'), kind);
    return value;
  }

  number(
    name: string,
    bytes: 1 | 2 | 3 | 4 | 8,
    words: Words = formatCount,
    kind: ByteField['kind'] = 'header',
  ): number {
    if (!this.has(bytes)) return 0;
    const view = viewOf(this.peek(bytes));
    const value =
      bytes === 1
        ? view.getUint8(0)
        : bytes === 2
          ? view.getUint16(0, this.little)
          : bytes === 3
            ? (view.getUint8(0) << 16) | view.getUint16(1, false)
            : bytes === 4
              ? view.getUint32(0, this.little)
              : Number(view.getBigUint64(0, this.little));
    this.note(name, bytes, words(value), kind);
    return value;
  }
}

export const bytesWords: Words = (value) => `${formatCount(value)} bytes`;
export const hertzWords: Words = (value) => `${formatCount(value)} Hz`;
export const bitsWords: Words = (value) => `${value} bit`;
