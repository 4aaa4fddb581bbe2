import { asciiBytes, concatenated, inMemory, latin1, wholeOf } from '../../bytes/index.ts';
import { encodings } from '../../encodings/index.ts';
import { InputError } from '../../words/index.ts';
import type { Container } from '../container.ts';
import { headerless } from '../headerless.ts';
import { USUAL_TEXT } from './options.ts';

/**
 * Intel HEX: records of 16 bytes with their address and a checksum ("Hexadecimal Object File Format Specification",
 * revision A, 1988; from memory). It holds bare bytes at an address and does not say what they are.
 */
const DATA = 0x00;
const END = 0x01;
/** The upper 16 bits of the addresses that follow. */
const UPPER = 0x04;
const PER_RECORD = 16;

const hex = (value: number, digits: number) => value.toString(16).toUpperCase().padStart(digits, '0');

/** A record: length, address, type, bytes, and the two's complement of their sum. */
function record(type: number, address: number, bytes: ArrayLike<number>): string {
  const all = [bytes.length, (address >> 8) & 255, address & 255, type, ...Array.from(bytes)];
  const sum = all.reduce((total, byte) => total + byte, 0);
  return `:${all.map((byte) => hex(byte, 2)).join('')}${hex(-sum & 255, 2)}\n`;
}

const damaged = (line: number, what: string) =>
  new InputError('damaged', `Line ${line} of the Intel HEX file ${what}; write the file again from its source.`);

/** All data records one after the other; each has to begin where the one before ended. */
function parse(text: string): Uint8Array {
  const parts: Uint8Array[] = [];
  let upper = 0;
  let next = -1;
  const lines = text.split(/\r?\n/);
  for (let i = 0; i < lines.length; i++) {
    const line = lines[i].trim();
    if (line === '') continue;
    if (!/^:(?:[0-9A-Fa-f]{2}){5,}$/.test(line)) throw damaged(i + 1, 'is not a record');
    const bytes = Uint8Array.from({ length: (line.length - 1) / 2 }, (_, k) =>
      Number.parseInt(line.slice(1 + 2 * k, 3 + 2 * k), 16),
    );
    if ((bytes.reduce((total, byte) => total + byte, 0) & 255) !== 0) throw damaged(i + 1, 'has a wrong checksum');
    const data = bytes.subarray(4, -1);
    if (data.length !== bytes[0]) throw damaged(i + 1, 'states a length that it does not have');
    const type = bytes[3];
    if (type === END) return concatenated(parts);
    if (type === UPPER) upper = ((data[0] << 8) | data[1]) * 0x1_0000;
    if (type !== DATA) continue;
    const address = upper + ((bytes[1] << 8) | bytes[2]);
    if (next >= 0 && address !== next) throw damaged(i + 1, 'leaves a gap before it');
    parts.push(data);
    next = address + data.length;
  }
  throw damaged(lines.length, 'is the last, without an end record before it');
}

export const intelHex: Container = {
  id: 'intel-hex',
  title: 'Intel HEX',
  extensions: ['hex', 'ihx'],
  describesItself: false,
  textOptions: ['address'],
  carries: encodings.map(({ id }) => id),
  carriesEvery: true,
  recognises: (bytes) => /^:[0-9A-Fa-f]{10,}\r?\n/.test(latin1(bytes.subarray(0, 600))),
  read: (file, reading) => ({
    ...headerless.read(inMemory(parse(latin1(wholeOf(file)))), reading),
    container: 'intel-hex',
  }),
  write({ text }) {
    let at = text?.address ?? USUAL_TEXT.address;
    let upper = 0;
    let waiting = new Uint8Array(0);
    const records = (bytes: Uint8Array): string => {
      let out = '';
      for (let from = 0; from < bytes.length; ) {
        const high = Math.floor(at / 0x1_0000);
        if (high !== upper) out += record(UPPER, 0, [high >> 8, high & 255]);
        upper = high;
        // A record does not cross the border of 64 KiB.
        const count = Math.min(PER_RECORD, bytes.length - from, 0x1_0000 - (at % 0x1_0000));
        out += record(DATA, at & 0xffff, bytes.subarray(from, from + count));
        from += count;
        at += count;
      }
      return out;
    };
    return {
      head: new Uint8Array(0),
      body(data) {
        const all = concatenated([waiting, data]);
        const whole = all.length - (all.length % PER_RECORD);
        waiting = all.slice(whole);
        return asciiBytes(records(all.subarray(0, whole)));
      },
      tail: () => asciiBytes(records(waiting) + record(END, 0, [])),
    };
  },
};
