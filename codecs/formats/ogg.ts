import { type ByteFile, partOf, piecesOf, viewOf, windowed } from '@tambur/core';
import { decodedStream } from './decoding.ts';
import { cutOff, damaged, type LibraryFormat, startsWith, stated, text, unsupported } from './format.ts';
import { tagsOf } from './tags.ts';

/**
 * Walks the pages of an Ogg file (RFC 3533, section 6): where the last complete one ends, and whether that page is
 * marked as the end of its stream (header type flag 4).
 */
function oggPages(source: ByteFile): { end: number; ended: boolean } {
  const file = windowed(source);
  let end = 0;
  let ended = false;
  while (end + 27 <= file.size) {
    const head = file.read(end, end + 27 + 255);
    if (text(head, 0, 4) !== 'OggS') break;
    const segments = head[26] ?? 0;
    const next = head.subarray(27, 27 + segments).reduce((sum, size) => sum + size, end + 27 + segments);
    if (next > file.size) break;
    ended = ((head[5] ?? 0) & 4) !== 0;
    end = next;
  }
  return { end, ended: ended && end === file.size };
}

/** What the first packet says: Vorbis (Vorbis I, 4.2.2; from memory), Opus (RFC 7845, 5.1), FLAC (RFC 9639, 10.1). */
function readHead(file: ByteFile) {
  const page = file.read(0, 27 + 255 + 64);
  const packet = page.subarray(27 + (page[26] ?? 0));
  const view = viewOf(packet);
  if (packet.length < 19) throw damaged('Ogg');
  if (text(packet, 0, 7) === '\u0001vorbis') {
    return {
      encoding: 'vorbis',
      decoder: 'oga',
      channels: packet[11] ?? 0,
      sampleRate: view.getUint32(12, true),
    } as const;
  }
  if (text(packet, 0, 8) === 'OpusHead') {
    return { encoding: 'opus', decoder: 'opus', channels: packet[9] ?? 0, sampleRate: 48_000 } as const;
  }
  if (text(packet, 0, 5) === '\u007fFLAC' && packet.length >= 35) {
    const packed = view.getUint32(27);
    return {
      encoding: 'flac',
      decoder: 'flac',
      channels: ((packed >>> 9) & 7) + 1,
      sampleRate: packed >>> 12,
    } as const;
  }
  throw unsupported('Ogg', 'sound that is neither Vorbis nor Opus nor FLAC');
}

/** Ogg with Vorbis, Opus or FLAC. */
export const ogg: LibraryFormat = {
  title: 'Ogg',
  recognises: startsWith('OggS'),
  async open(file) {
    // The libraries give up on an Ogg file that ends inside a page.
    const { end, ended } = oggPages(file);
    if (end === 0) throw damaged('Ogg');
    const whole = partOf(file, 0, end);
    const { encoding, decoder, channels, sampleRate } = readHead(whole);
    if (channels === 0 || sampleRate === 0) throw damaged('Ogg');
    const facts = stated({
      container: 'ogg',
      encoding,
      sampleRate,
      channels,
      bytes: file.size,
      bitRateMode: 'variable',
      tags: await tagsOf(whole),
      warnings: ended ? [] : [cutOff('its last page is not marked as the end.')],
    });
    return decodedStream('Ogg', decoder, () => piecesOf(whole), facts);
  },
};
