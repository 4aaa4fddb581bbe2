import { type ByteFile, type Extra, FLAC_METADATA, partOf, splitFlacFrames, viewOf } from '@tambur/core';
import { flacInfo, flacStream, STREAM_INFO_BYTES } from './flac-stream.ts';
import { damaged, type LibraryFormat, stated, text } from './format.ts';
import { id3Size } from './mpeg-frames.ts';
import { tagsOf } from './tags.ts';

const STREAM_INFO_AT = 8;
/** More blocks of metadata are not looked at: no real file has as many. */
const MOST_BLOCKS = 1000;

/** The metadata blocks of a FLAC file (RFC 9639, section 8), and where the sound begins. */
function readBlocks(file: ByteFile) {
  const extras: Extra[] = [];
  let at = 4;
  let isLast = false;
  for (let count = 0; !isLast && at + 4 <= file.size && count < MOST_BLOCKS; count++) {
    const [type = 0, a = 0, b = 0, c = 0] = file.read(at, at + 4);
    const bytes = (a << 16) | (b << 8) | c;
    isLast = type >= 128;
    if ((type & 127) > 0) extras.push({ name: FLAC_METADATA[type & 127] ?? `block ${type & 127}`, bytes });
    at += 4 + bytes;
  }
  return { extras, soundAt: at, info: flacInfo(file.read(STREAM_INFO_AT, STREAM_INFO_AT + STREAM_INFO_BYTES)) };
}

/** Sizes of the tags that other programs put after the sound: ID3v1, and APE's footer (both from memory). */
const ID3V1 = 128;
const APE_FOOTER = 32;

/** Where the file ends without them. */
function withoutTrailers(file: ByteFile): number {
  let end = file.size;
  if (text(file.read(Math.max(0, end - ID3V1), end), 0, 3) === 'TAG') end -= ID3V1;
  const footer = file.read(Math.max(0, end - APE_FOOTER), end);
  if (text(footer, 0, 8) !== 'APETAGEX') return end;
  const view = viewOf(footer);
  const header = view.getUint32(20, true) & 0x8000_0000 ? APE_FOOTER : 0;
  return Math.max(0, end - view.getUint32(12, true) - header);
}

/** FLAC, also after an ID3v2 tag. */
export const flac: LibraryFormat = {
  title: 'FLAC',
  recognises: (head) => text(head, id3Size(head), 4) === 'fLaC',
  async open(whole) {
    const tag = id3Size(whole.read(0, 10));
    const file = partOf(whole, tag, whole.size);
    const { extras, soundAt, info } = readBlocks(file);
    if (soundAt >= file.size) throw damaged('FLAC');
    const facts = stated({
      container: 'flac',
      encoding: 'flac',
      sampleRate: info.sampleRate,
      channels: info.channels,
      bitDepth: info.bitDepth,
      plainBits: info.bitDepth,
      bytes: whole.size,
      bitRateMode: 'variable',
      tags: await tagsOf(file),
      extras: [...(tag > 0 ? [{ name: 'ID3v2 tag', bytes: tag }] : []), ...extras],
      expectedFrames: info.frames || null,
    });
    return flacStream(info, facts, () => splitFlacFrames(partOf(file, soundAt, withoutTrailers(file))));
  },
};
