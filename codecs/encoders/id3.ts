import { concatenated, type Tag, viewOf } from '@tambur/core';
import { ascii } from './encoder.ts';

/** An ID3v2.3 tag ("ID3 tag version 2.3.0", sections 3.1 to 4.11; from memory). */

/** Text frames by our names. */
const FRAMES: Readonly<Record<string, string>> = {
  title: 'TIT2',
  artist: 'TPE1',
  album: 'TALB',
  albumArtist: 'TPE2',
  comment: 'COMM',
  genre: 'TCON',
  date: 'TYER',
  track: 'TRCK',
  trackNumber: 'TRCK',
};

const isLatin = (text: string) => [...text].every((char) => char.charCodeAt(0) < 256);

/** Texts in Latin-1 if that will do, else in UTF-16 with a byte order mark. */
function encoded(text: string, latin: boolean): Uint8Array {
  if (latin) return ascii(text);
  const out = new Uint8Array(2 + 2 * text.length);
  const view = viewOf(out);
  view.setUint16(0, 0xfeff, true);
  for (let i = 0; i < text.length; i++) view.setUint16(2 + 2 * i, text.charCodeAt(i), true);
  return out;
}

function frame({ name, value }: Tag): Uint8Array {
  const id = FRAMES[name];
  if (!id) return new Uint8Array(0);
  const latin = isLatin(value);
  const start = Uint8Array.of(latin ? 0 : 1);
  // A comment has a language and a description of its own, which stays empty.
  const before = id === 'COMM' ? [ascii('eng'), encoded('', latin), new Uint8Array(latin ? 1 : 2)] : [];
  const text = id === 'TYER' ? value.slice(0, 4) : value;
  const body = concatenated([start, ...before, encoded(text, latin)]);
  const head = new Uint8Array(10);
  head.set(ascii(id));
  viewOf(head).setUint32(4, body.length);
  return concatenated([head, body]);
}

/** The whole tag; nothing without tags. */
export function id3Tag(tags: readonly Tag[]): Uint8Array {
  const frames = concatenated(tags.map(frame));
  if (frames.length === 0) return frames;
  const { length } = frames;
  // The size stands in four times seven bits.
  const size = [21, 14, 7, 0].map((shift) => (length >> shift) & 127);
  return concatenated([ascii('ID3'), Uint8Array.of(3, 0, 0, ...size), frames]);
}
