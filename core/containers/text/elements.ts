import { asciiBytes, latin1, viewOf } from '../../bytes/index.ts';
import type { PlainEncoding } from '../../encodings/index.ts';

/** What one number in a text stands for: a whole one, or one in floating point. */
export type Element = WholeElement | { readonly isFloat: true; readonly bytes: 4 | 8 };

interface WholeElement {
  readonly isFloat: false;
  readonly bytes: 1 | 2 | 4;
  readonly signed: boolean;
}

export const BYTE: Element = { isFloat: false, bytes: 1, signed: false };

/** Samples of one, two, four or eight bytes in the processor's usual order are written as numbers, all else as bytes. */
export function elementOf(encoding: PlainEncoding): Element {
  if (encoding.byteLayout?.order === 'big') return BYTE;
  if (encoding.kind === 'float') return { isFloat: true, bytes: encoding.bytesPerSample === 8 ? 8 : 4 };
  if (encoding.kind !== 'integer' || encoding.companded) return BYTE;
  const bytes = encoding.bytesPerSample;
  return bytes === 1 || bytes === 2 || bytes === 4 ? { isFloat: false, bytes, signed: !encoding.isUnsigned } : BYTE;
}

/** Bytes as the numbers that stand in the text. */
export function numbersOf(data: Uint8Array, element: Element): ArrayLike<number> {
  if (element.isFloat) {
    const { bytes } = element;
    const floats = viewOf(data);
    return Float64Array.from({ length: data.length / bytes }, (_, i) =>
      bytes === 8 ? floats.getFloat64(i * 8, true) : floats.getFloat32(i * 4, true),
    );
  }
  const { bytes, signed } = element;
  if (bytes === 1) return signed ? new Int8Array(data.buffer, data.byteOffset, data.length) : data;
  const view = viewOf(data);
  const at = {
    2: signed ? (i: number) => view.getInt16(i, true) : (i: number) => view.getUint16(i, true),
    4: signed ? (i: number) => view.getInt32(i, true) : (i: number) => view.getUint32(i, true),
  }[bytes];
  return Float64Array.from({ length: data.length / bytes }, (_, i) => at(i * bytes));
}

const COMMA = 0x2c;
const MINUS = 0x2d;
const SPACE = 0x20;
const LINE_FEED = 0x0a;
const CARRIAGE_RETURN = 0x0d;
const TAB = 0x09;
const ZERO = 0x30;
const SMALL_A = 0x61;
const SMALL_X = 0x78;

/** Longest text of one value with its comma and space, "-2147483648, ". */
const LONGEST_VALUE = 13;

export interface NumberStyle {
  readonly prefix: string;
  readonly lineEnd: string;
  readonly lineWidth: number;
  readonly hex: boolean;
}

/** Writes an array's numbers in lines, byte by byte: arrays are long. */
export class NumberLines {
  private readonly style: NumberStyle;
  private readonly start: Uint8Array;
  private readonly end: Uint8Array;
  /** Characters in the line so far; -1 before the first line. */
  private column = -1;

  constructor(style: NumberStyle) {
    this.style = style;
    this.start = asciiBytes(style.prefix);
    this.end = asciiBytes(`${style.lineEnd}\n`);
  }

  add(values: ArrayLike<number>, element: Element): Uint8Array {
    return element.isFloat ? this.addFloats(values, element.bytes) : this.addWhole(values, element.bytes);
  }

  private addFloats(values: ArrayLike<number>, bytes: 4 | 8): Uint8Array {
    const { lineWidth, lineEnd, prefix } = this.style;
    const parts: string[] = [];
    for (let i = 0; i < values.length; i++) {
      const text = floatText(values[i], bytes);
      const isNew = this.column < 0 || this.column + 2 + text.length + lineEnd.length > lineWidth;
      parts.push(isNew ? `${this.column < 0 ? '' : `${lineEnd}\n`}${prefix}` : ', ', text);
      this.column = isNew ? prefix.length + text.length : this.column + 2 + text.length;
    }
    return asciiBytes(parts.join(''));
  }

  private addWhole(values: ArrayLike<number>, bytes: number): Uint8Array {
    const { lineWidth, lineEnd, hex } = this.style;
    const base = hex ? 16 : 10;
    const out = new Uint8Array(values.length * (LONGEST_VALUE + this.start.length + this.end.length));
    let { column } = this;
    let at = 0;
    for (let i = 0; i < values.length; i++) {
      const value = hex && values[i] < 0 ? values[i] + 2 ** (8 * bytes) : values[i];
      // A magnitude is below 2^32, which `>>>` makes a whole number of without a call.
      let rest = Math.abs(value) >>> 0;
      let digits = 1;
      if (hex) digits = 2 * bytes;
      else for (let power = 10; rest >= power; power *= 10) digits++;
      const width = digits + (hex ? 2 : value < 0 ? 1 : 0);
      if (column < 0 || column + 2 + width + lineEnd.length > lineWidth) {
        if (column >= 0) for (let k = 0; k < this.end.length; k++) out[at++] = this.end[k];
        for (let k = 0; k < this.start.length; k++) out[at++] = this.start[k];
        column = this.start.length;
      } else {
        out[at++] = COMMA;
        out[at++] = SPACE;
        column += 2;
      }
      if (hex) {
        out[at++] = ZERO;
        out[at++] = SMALL_X;
      } else if (value < 0) out[at++] = MINUS;
      for (let place = at + digits - 1; place >= at; place--) {
        const next = (rest / base) >>> 0;
        const digit = rest - next * base;
        out[place] = digit < 10 ? ZERO + digit : SMALL_A + digit - 10;
        rest = next;
      }
      at += digits;
      column += width;
    }
    this.column = column;
    return out.subarray(0, at);
  }
}

/** A number so that it reads back to the last bit, and is seen to be no whole one: nine or seventeen digits are enough. */
function floatText(value: number, bytes: number): string {
  if (Object.is(value, -0)) return '-0.0';
  const text = String(bytes === 4 ? Number(value.toPrecision(9)) : value);
  return /[.e]/.test(text) ? text : `${text}.0`;
}

/** What each byte is as a digit, up to 15; more where it is none. */
const DIGITS = Uint8Array.from({ length: 256 }, (_, byte) => {
  const digit = Number.parseInt(String.fromCharCode(byte), 16);
  return Number.isNaN(digit) ? 255 : digit;
});

/** 1 for what stands between numbers. */
const BETWEEN = new Uint8Array(256);
for (const byte of [SPACE, LINE_FEED, CARRIAGE_RETURN, TAB, COMMA]) BETWEEN[byte] = 1;

/** Text with the place of its numbers. */
export interface NumberText {
  readonly bytes: Uint8Array;
  readonly from: number;
  /** The bytes that may end them; twice the same where it is one. */
  readonly closing: readonly [number, number];
  /** A word that may begin a line, such as `.byte`. */
  readonly skipped: string;
}

/** Numbers of a text as the bytes they stand for; null where something else is there. */
export const parseNumbers = (text: NumberText, element: Element): Uint8Array | null =>
  element.isFloat ? parseFloats(text, element.bytes) : parseWhole(text, element);

function parseWhole({ bytes, from, closing, skipped }: NumberText, element: WholeElement): Uint8Array | null {
  const size = element.bytes;
  const range = 2 ** (8 * size);
  const least = element.signed ? -range / 2 : 0;
  const most = least + range - 1;
  const end = bytes.length;
  const data = new Uint8Array(Math.ceil((end - from) / 2 + 1) * size);
  const word = asciiBytes(skipped);
  let length = 0;
  for (let at = from; at < end; ) {
    let byte = bytes[at];
    if (BETWEEN[byte] !== 0) {
      at++;
      continue;
    }
    if (byte === closing[0] || byte === closing[1]) return data.subarray(0, length);
    if (word.length && word.every((letter, k) => bytes[at + k] === letter)) {
      at += word.length;
      continue;
    }
    const isNegative = byte === MINUS;
    if (isNegative) byte = bytes[++at];
    const isHex = byte === ZERO && (bytes[at + 1] | 0x20) === SMALL_X;
    if (isHex) {
      at += 2;
      byte = bytes[at];
    }
    const base = isHex ? 16 : 10;
    const start = at;
    let value = 0;
    for (let digit = DIGITS[byte]; digit < base; digit = DIGITS[byte]) {
      value = value * base + digit;
      byte = bytes[++at];
    }
    if (at === start || (at < end && BETWEEN[byte] === 0 && byte !== closing[0] && byte !== closing[1])) return null;
    if (isNegative) value = -value;
    if (isHex && value > most) value -= range;
    if (value < least || value > most) return null;
    for (let k = 0; k < size; k++) data[length++] = value >> (8 * k);
  }
  return null;
}

function parseFloats({ bytes, from, closing, skipped }: NumberText, valueBytes: 4 | 8): Uint8Array | null {
  const ends = closing.map((byte) => bytes.indexOf(byte, from)).filter((place) => place >= 0);
  const end = ends.length ? Math.min(...ends) : -1;
  if (end < 0) return null;
  const words = latin1(bytes.subarray(from, end))
    .split(/[\s,]+/)
    .filter((word) => word !== '' && word !== skipped);
  const data = new Uint8Array(words.length * valueBytes);
  const view = viewOf(data);
  for (const [i, word] of words.entries()) {
    const value = Number(word);
    if (!Number.isFinite(value)) return null;
    if (valueBytes === 8) view.setFloat64(i * 8, value, true);
    else view.setFloat32(i * 4, value, true);
  }
  return data;
}
