import { latin1 } from '../bytes/index.ts';
import { inLatin } from '../words/index.ts';
import type { ListFile } from './list-file.ts';

const LATIN_1_LAST = 0xff;

/** Latin-1 holds the first 256 characters; others are written in the letters that it has. */
function latin1Bytes(text: string): Uint8Array<ArrayBuffer> {
  const fitting = [...text].map((char) => ((char.codePointAt(0) ?? 0) <= LATIN_1_LAST ? char : inLatin(char))).join('');
  return Uint8Array.from(fitting, (char) => char.charCodeAt(0));
}

/** UTF-16 begins with a mark that tells the order of its bytes (RFC 2781). */
function utf16Bytes(text: string): Uint8Array<ArrayBuffer> {
  const bytes = new Uint8Array(2 * (text.length + 1));
  const view = new DataView(bytes.buffer);
  view.setUint16(0, 0xfeff, true);
  for (let i = 0; i < text.length; i++) view.setUint16(2 * i + 2, text.charCodeAt(i), true);
  return bytes;
}

/** A text as the bytes of a file, in the encoding that its device reads. */
export function textBytes(text: string, encoding: ListFile['text']): Uint8Array<ArrayBuffer> {
  if (encoding === 'latin-1') return latin1Bytes(text);
  return encoding === 'utf-16le' ? utf16Bytes(text) : new TextEncoder().encode(text);
}

/** The text that a device finds in a file: what its bytes say in the encoding that it reads. */
export const textOf = (bytes: Uint8Array, encoding: ListFile['text']): string =>
  encoding === 'latin-1' ? latin1(bytes) : new TextDecoder(encoding).decode(bytes);
