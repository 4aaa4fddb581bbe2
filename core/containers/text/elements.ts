import { viewOf } from '../../audio/index.ts';
import type { PlainEncoding } from '../../encodings/index.ts';
import { asciiBytes, latin1 } from '../ascii.ts';

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
  if (encoding.id.includes('be')) return BYTE;
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
    let at = 0;
    for (let i = 0; i < values.length; i++) {
      const value = hex && values[i] < 0 ? values[i] + 2 ** (8 * bytes) : values[i];
      const magnitude = Math.abs(value);
      let digits = 1;
      // A magnitude is below 2^32, which `>>>` makes a whole number of without a call.
      for (let rest = magnitude; rest >= base; rest = (rest / base) >>> 0) digits++;
      if (hex) digits = 2 * bytes;
      const width = digits + (hex ? 2 : value < 0 ? 1 : 0);
      if (this.column < 0 || this.column + 2 + width + lineEnd.length > lineWidth) {
        if (this.column >= 0) {
          out.set(this.end, at);
          at += this.end.length;
        }
        out.set(this.start, at);
        at += this.start.length;
        this.column = this.start.length;
      } else {
        out[at++] = COMMA;
        out[at++] = SPACE;
        this.column += 2;
      }
      if (hex) {
        out[at++] = ZERO;
        out[at++] = SMALL_X;
      } else if (value < 0) out[at++] = MINUS;
      let rest = magnitude >>> 0;
      for (let place = at + digits - 1; place >= at; place--) {
        const next = (rest / base) >>> 0;
        const digit = rest - next * base;
        out[place] = digit < 10 ? ZERO + digit : SMALL_A + digit - 10;
        rest = next;
      }
      at += digits;
      this.column += width;
    }
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

/** Where numbers are in a text. */
export interface NumberText {
  readonly bytes: Uint8Array;
  readonly from: number;
  /** The byte that ends them. */
  readonly closing: number;
  /** A word that may begin a line, such as `.byte`. */
  readonly skipped: string;
}

/** Numbers of a text as the bytes they stand for; null where something else is there. */
export const parseNumbers = (text: NumberText, element: Element): Uint8Array | null =>
  element.isFloat ? parseFloats(text, element.bytes) : parseWhole(text, element);

function parseWhole({ bytes, from, closing, skipped }: NumberText, element: WholeElement): Uint8Array | null {
  const range = 2 ** (8 * element.bytes);
  const least = element.signed ? -range / 2 : 0;
  const most = least + range - 1;
  const data = new Uint8Array(Math.ceil((bytes.length - from) / 2 + 1) * element.bytes);
  const word = asciiBytes(skipped);
  let length = 0;
  let at = from;
  for (;;) {
    while (at < bytes.length && BETWEEN[bytes[at]]) at++;
    if (at >= bytes.length) return null;
    if (bytes[at] === closing) return data.subarray(0, length);
    if (word.length && word.every((byte, k) => bytes[at + k] === byte)) {
      at += word.length;
      continue;
    }
    const negative = bytes[at] === MINUS;
    if (negative) at++;
    const hex = bytes[at] === ZERO && (bytes[at + 1] | 0x20) === SMALL_X;
    if (hex) at += 2;
    const base = hex ? 16 : 10;
    const start = at;
    let value = 0;
    for (let digit = DIGITS[bytes[at]]; digit < base; digit = DIGITS[bytes[at]]) {
      value = value * base + digit;
      at++;
    }
    if (at === start || (at < bytes.length && !BETWEEN[bytes[at]] && bytes[at] !== closing)) return null;
    if (negative) value = -value;
    if (hex && value > most) value -= range;
    if (value < least || value > most) return null;
    for (let k = 0; k < element.bytes; k++) data[length++] = value >> (8 * k);
  }
}

function parseFloats({ bytes, from, closing, skipped }: NumberText, valueBytes: 4 | 8): Uint8Array | null {
  const end = bytes.indexOf(closing, from);
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
