import { concatenated, type Tag, viewOf } from '@tambur/core';

/** Field names of Vorbis comments by our names (Ogg Vorbis I, section 5; from memory). */
const FIELDS: Readonly<Record<string, string>> = {
  title: 'TITLE',
  artist: 'ARTIST',
  album: 'ALBUM',
  albumArtist: 'ALBUMARTIST',
  comment: 'COMMENT',
  genre: 'GENRE',
  date: 'DATE',
  track: 'TRACKNUMBER',
  trackNumber: 'TRACKNUMBER',
};

const utf8 = new TextEncoder();

function counted(text: string): Uint8Array {
  const bytes = utf8.encode(text);
  const out = new Uint8Array(4 + bytes.length);
  viewOf(out).setUint32(0, bytes.length, true);
  out.set(bytes, 4);
  return out;
}

/** A Vorbis comment header without its framing: the writer's name, then each tag as NAME=text. */
export function vorbisComments(tags: readonly Tag[], vendor: string): Uint8Array {
  const fields = tags.flatMap(({ name, value }) => {
    const field = FIELDS[name];
    return field ? [counted(`${field}=${value}`)] : [];
  });
  const count = new Uint8Array(4);
  viewOf(count).setUint32(0, fields.length, true);
  return concatenated([counted(vendor), count, ...fields]);
}

export const VENDOR = 'Tambur';
