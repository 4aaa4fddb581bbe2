/** Whether a compressed file is all there, as far as its own bytes tell. */

/** Frames that the STREAMINFO block of a FLAC file states (RFC 9639, section 8.2); 0 where it states none. */
export function flacStreamInfo(bytes: Uint8Array): { bitDepth: number; frames: number } {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const high = view.getUint32(8 + 10);
  return { bitDepth: ((high >> 4) & 31) + 1, frames: (high & 15) * 2 ** 32 + view.getUint32(8 + 14) };
}

/**
 * Walks the pages of an Ogg file (RFC 3533, section 6): where the last complete one ends, and whether that page is
 * marked as the end of its stream (header type flag 4).
 */
export function oggPages(bytes: Uint8Array): { end: number; ended: boolean } {
  let end = 0;
  let ended = false;
  while (end + 27 <= bytes.length && String.fromCharCode(...bytes.subarray(end, end + 4)) === 'OggS') {
    const segments = bytes[end + 26] ?? 0;
    const sizes = bytes.subarray(end + 27, end + 27 + segments);
    const next = sizes.reduce((sum, size) => sum + size, end + 27 + segments);
    if (next > bytes.length) break;
    ended = ((bytes[end + 5] ?? 0) & 4) !== 0;
    end = next;
  }
  return { end, ended: ended && end === bytes.length };
}

/**
 * Walks the boxes of an MPEG-4 file (ISO/IEC 14496-12, 4.2): whether its index, the `moov` box, is among them (writers
 * often put it last), and whether every box is all there.
 */
export function mp4Boxes(bytes: Uint8Array): { hasIndex: boolean; isWhole: boolean } {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  let hasIndex = false;
  let at = 0;
  while (at + 16 <= bytes.length) {
    const size = view.getUint32(at);
    // 1: the size follows in 64 bits; 0: the box goes on to the end of the file.
    const length = size === 1 ? Number(view.getBigUint64(at + 8)) : size === 0 ? bytes.length - at : size;
    if (length < 8) break;
    if (String.fromCharCode(...bytes.subarray(at + 4, at + 8)) === 'moov') hasIndex = at + length <= bytes.length;
    at += length;
  }
  return { hasIndex, isWhole: at === bytes.length };
}

/** Bytes of sound that an MP3 file's information frame promises (Xing/Info header, flag 2; from memory); null without one. */
export function mp3StatedBytes(bytes: Uint8Array): number | null {
  const reach = Math.min(bytes.length - 16, 1 << 20);
  for (let at = 0; at < reach; at++) {
    const word = String.fromCharCode(...bytes.subarray(at, at + 4));
    if (word !== 'Xing' && word !== 'Info') continue;
    const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
    const flags = view.getUint32(at + 4);
    if (flags > 15) continue;
    return flags & 2 ? view.getUint32(at + 8 + (flags & 1 ? 4 : 0)) : null;
  }
  return null;
}
