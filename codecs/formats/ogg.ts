import { type ByteFile, concatenated, partOf, piecesOf, viewOf, windowed } from '@tambur/core';
import { decodedStream } from './decoding.ts';
import { flacFrames, flacInfo, flacStream, STREAM_INFO_BYTES } from './flac-stream.ts';
import { cutOff, damaged, type LibraryFormat, startsWith, stated, text, unsupported } from './format.ts';
import { tagsOf } from './tags.ts';

// Taken apart here and not by the media library: that one does not find FLAC in Ogg (fixtures/deep/flac.ogg).

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

/** The packets of the first stream in a file, one after the other. */
function* packetsOf(source: ByteFile): Generator<Uint8Array> {
  const file = windowed(source);
  const serial = viewOf(file.read(0, 27)).getUint32(14, true);
  let open: Uint8Array[] = [];
  for (let at = 0; at + 27 <= file.size; ) {
    const head = file.read(at, at + 27 + 255);
    const segments = [...head.subarray(27, 27 + (head[26] ?? 0))];
    const isOurs = viewOf(head).getUint32(14, true) === serial;
    at += 27 + segments.length;
    for (const size of segments) {
      if (isOurs) open.push(file.read(at, at + size).slice());
      at += size;
      if (!isOurs || size === 255) continue;
      yield concatenated(open);
      open = [];
    }
  }
}

/** After a mark, a version and a count stands what a FLAC file begins with: its marker, and the head of its first block. */
const FLAC_INFO_AT = 17;

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
  if (text(packet, 0, 5) === '\u007fFLAC' && packet.length >= FLAC_INFO_AT + STREAM_INFO_BYTES) {
    const info = flacInfo(packet.subarray(FLAC_INFO_AT));
    return { encoding: 'flac', flac: info, channels: info.channels, sampleRate: info.sampleRate } as const;
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
    const head = readHead(whole);
    const { encoding, channels, sampleRate } = head;
    if (channels === 0 || sampleRate === 0) throw damaged('Ogg');
    const facts = stated({
      container: 'ogg',
      encoding,
      sampleRate,
      channels,
      bitDepth: head.encoding === 'flac' ? head.flac.bitDepth : null,
      plainBits: head.encoding === 'flac' ? head.flac.bitDepth : null,
      bytes: file.size,
      bitRateMode: 'variable',
      tags: await tagsOf(whole),
      warnings: ended ? [] : [cutOff('its last page is not marked as the end.')],
    });
    if (head.encoding === 'flac') return flacStream(head.flac, facts, () => flacFrames(packetsOf(whole)));
    return decodedStream('Ogg', head.decoder, () => piecesOf(whole), facts);
  },
};
