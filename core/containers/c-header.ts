import { InputError, inMemory, wholeOf } from '../audio/index.ts';
import { encodingOf, frameCodec } from '../encodings/index.ts';
import { asciiBytes, latin1 } from './ascii.ts';
import type { Container, FileWriter, Packing } from './container.ts';

/** A C type of one array element, and the encoding whose samples it holds as numbers. */
interface ArrayType {
  readonly type: string;
  readonly encoding: string;
  /** The lowest value. */
  readonly least: number;
}

const TYPES: readonly ArrayType[] = [
  { type: 'uint8_t', encoding: 'pcm-u8', least: 0 },
  // Fewer bits in the same type: the comment in the file's first line tells them apart.
  ...['pcm-u7', 'pcm-u6', 'pcm-u5', 'pcm-u4'].map((encoding) => ({ type: 'uint8_t', encoding, least: 0 })),
  { type: 'int8_t', encoding: 'pcm-s8', least: -0x80 },
  { type: 'int16_t', encoding: 'pcm-s16le', least: -0x8000 },
];

const LINE_WIDTH = 100;

/** Words that C and C++ keep for themselves and that a clip may well be called (ISO C and C++ keyword lists; from memory). */
const KEYWORDS = new Set(
  (
    'alignas alignof asm auto bool break case catch char class const constexpr continue default delete do double else ' +
    'enum explicit export extern false float for friend goto if inline int long mutable namespace new operator ' +
    'private protected public register restrict return short signed sizeof static struct switch template this throw ' +
    'true try typedef typename union unsigned using virtual void volatile while'
  ).split(' '),
);

/** A C identifier made of a file's stem: letters, digits and underscores, no digit in front, no keyword. */
export function cIdentifier(stem: string): string {
  const plain = stem.replace(/[^A-Za-z0-9]+/g, '_').replace(/^_+|_+$/g, '') || 'clip';
  return /^[0-9]/.test(plain) || KEYWORDS.has(plain) ? `clip_${plain}` : plain;
}

/** The samples as the numbers that stand in the array. */
const numbersOf = (data: Uint8Array, { encoding }: ArrayType): ArrayLike<number> => {
  if (encoding.startsWith('pcm-u')) return data;
  if (encoding === 'pcm-s8') return new Int8Array(data.buffer, data.byteOffset, data.byteLength);
  const view = new DataView(data.buffer, data.byteOffset, data.byteLength);
  return Int16Array.from({ length: data.length / 2 }, (_, i) => view.getInt16(2 * i, true));
};

const COMMA = 0x2c;
const MINUS = 0x2d;
const SPACE = 0x20;
const LINE_FEED = 0x0a;
const ZERO = 0x30;
const CLOSING_BRACE = 0x7d;
const CARRIAGE_RETURN = 0x0d;
const TAB = 0x09;

/** Longest text of one value with its space and comma, and the line break that may stand before it. */
const LONGEST_VALUE = ' -32768,'.length + 2;

/** Writes an array's numbers in lines of at most LINE_WIDTH characters, byte by byte: arrays are long. */
class ArrayBody {
  /** Characters in the line so far. */
  private column = 0;

  add(values: ArrayLike<number>): Uint8Array {
    const out = new Uint8Array(1 + values.length * LONGEST_VALUE);
    let at = 0;
    for (let i = 0; i < values.length; i++) {
      const value = values[i];
      const magnitude = Math.abs(value);
      let digits = 1;
      for (let rest = magnitude; rest >= 10; rest = Math.floor(rest / 10)) digits++;
      const width = digits + 2 + (value < 0 ? 1 : 0);
      if (this.column + width > LINE_WIDTH) {
        out[at++] = LINE_FEED;
        this.column = 0;
      }
      if (this.column === 0) {
        out[at++] = SPACE;
        this.column = 1;
      }
      out[at++] = SPACE;
      if (value < 0) out[at++] = MINUS;
      for (let rest = magnitude, place = at + digits - 1; place >= at; place--, rest = Math.floor(rest / 10)) {
        out[place] = ZERO + (rest % 10);
      }
      at += digits;
      out[at++] = COMMA;
      this.column += width;
    }
    return out.subarray(0, at);
  }
}

function write(packing: Packing): FileWriter {
  const type = TYPES.find(({ encoding }) => encoding === packing.encoding.id);
  if (!type) throw new RangeError(`a C array does not carry ${packing.encoding.id}`);
  const name = cIdentifier(packing.stem);
  const constant = name.toUpperCase();
  const attribute = packing.storageAttribute ? ` ${packing.storageAttribute}` : '';
  const channels = packing.channels === 1 ? 'mono' : `${packing.channels} channels`;
  const head = asciiBytes(
    [
      `/* ${packing.encoding.title}, ${packing.sampleRate} Hz, ${channels}, ${packing.frames} frames. */`,
      `#ifndef ${constant}_H`,
      `#define ${constant}_H`,
      '',
      '#include <stdint.h>',
      '',
      `#define ${constant}_SAMPLE_RATE ${packing.sampleRate}`,
      `#define ${constant}_CHANNELS ${packing.channels}`,
      `#define ${constant}_LENGTH ${packing.frames * packing.channels}`,
      '',
      `static const ${type.type} ${name}[${constant}_LENGTH]${attribute} = {`,
      '',
    ].join('\n'),
  );
  const body = new ArrayBody();
  return {
    head,
    body: (data) => body.add(numbersOf(data, type)),
    tail: () => asciiBytes('\n};\n\n#endif\n'),
  };
}

const damaged = (what: string) => new InputError('damaged', `The C header ${what}; write it again from its source.`);

function constantOf(text: string, suffix: string): number {
  const match = new RegExp(`#define\\s+\\w+_${suffix}\\s+(\\d+)`).exec(text);
  if (!match || Number(match[1]) === 0) throw damaged(`states no ${suffix.toLowerCase().replace('_', ' ')}`);
  return Number(match[1]);
}

/** Numbers between `from` and the closing brace; null where something else stands there. Samples as bytes. */
function parseArray(bytes: Uint8Array, from: number, { least, encoding }: ArrayType): Uint8Array | null {
  const { bitDepth, bytesPerSample } = encodingOf(encoding);
  const most = least + 2 ** bitDepth - 1;
  const data = new Uint8Array(Math.ceil((bytes.length - from) / 2) * bytesPerSample);
  let length = 0;
  let value = 0;
  let negative = false;
  let digits = 0;
  for (let at = from; at < bytes.length; at++) {
    const byte = bytes[at];
    if (byte >= ZERO && byte <= ZERO + 9) {
      value = value * 10 + byte - ZERO;
      digits++;
    } else if (byte === MINUS && !negative && digits === 0) {
      negative = true;
    } else if (byte === COMMA || byte === CLOSING_BRACE) {
      const number = negative ? -value : value;
      if (digits > 0) {
        if (number < least || number > most) return null;
        for (let k = 0; k < bytesPerSample; k++) data[length++] = number >> (8 * k);
      } else if (byte === COMMA || negative) return null;
      if (byte === CLOSING_BRACE) return data.subarray(0, length);
      value = 0;
      digits = 0;
      negative = false;
    } else if (byte !== SPACE && byte !== LINE_FEED && byte !== CARRIAGE_RETURN && byte !== TAB) return null;
  }
  return null;
}

/** As much of the file as holds everything before the array's numbers. */
const HEAD_BYTES = 4096;

/** A C header with one constant array of numbers, and constants for its rate, channels and length. */
export const cHeader: Container = {
  id: 'c-header',
  title: 'C header',
  extensions: ['h'],
  describesItself: true,
  carries: TYPES.map(({ encoding }) => encoding),
  recognises: (bytes) => /^\/\*[^*]*\*\/\s*#ifndef \w+_H\s/.test(latin1(bytes.subarray(0, 512))),
  read(file) {
    const bytes = wholeOf(file);
    const head = latin1(bytes.subarray(0, HEAD_BYTES));
    const array = /static const (\w+) \w+\[\w+\][^={]*=\s*\{/.exec(head);
    const ofType = TYPES.filter((entry) => entry.type === array?.[1]);
    const type = ofType.find(({ encoding }) => head.startsWith(`/* ${encodingOf(encoding).title},`)) ?? ofType[0];
    if (!array || !type) throw damaged('holds no constant array that Tambur can read');
    const encoding = encodingOf(type.encoding);
    const data = parseArray(bytes, array.index + array[0].length, type);
    if (!data) throw damaged(`has an array that ends too early or a value that is no ${type.type}`);
    const channels = constantOf(head, 'CHANNELS');
    const samples = data.length / encoding.bytesPerSample;
    if (constantOf(head, 'LENGTH') !== samples) throw damaged('states a length that its array does not have');
    return {
      container: 'c-header',
      encoding,
      codec: frameCodec(encoding, channels),
      sampleRate: constantOf(head, 'SAMPLE_RATE'),
      channels,
      frames: Math.floor(samples / channels),
      data: inMemory(data),
      tags: [],
      extras: [],
      warnings: [],
    };
  },
  write,
};
