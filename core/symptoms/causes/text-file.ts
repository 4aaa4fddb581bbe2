import type { Cause } from '../cause.ts';

/** Bytes that are looked at. */
const LOOKED_AT = 4096;

/** True of bytes that stand in texts: signs, tabs, ends of lines, and whatever UTF-8 is made of. */
const isOfText = (byte: number): boolean => (byte >= 0x20 && byte !== 0x7f) || (byte >= 0x09 && byte <= 0x0d);

/** Readable signs of UTF-8, and no others; the last one may be cut off. */
const isText = (bytes: Uint8Array): boolean =>
  bytes.length > 0 &&
  bytes.every(isOfText) &&
  !new TextDecoder().decode(bytes.subarray(0, bytes.findLastIndex((byte) => byte < 0x80) + 1)).includes('\ufffd');

/** A page that a service sent instead of a sound, a list, source code for a device that compiles nothing. */
export const textFile: Cause = {
  id: 'text-file',
  title: 'It is a text and no sound',
  tellApart: 'A program for texts opens it, and one can read it.',
  async try({ file, player, truth }) {
    // Source code that a device has compiled is a sound.
    if (player.compiles || truth?.how === 'stated') return null;
    const head = file.bytes.read(0, Math.min(LOOKED_AT, file.bytes.size));
    if (!isText(head)) return null;
    const [line = ''] = new TextDecoder().decode(head).trim().split('\n', 1);
    return {
      signs: { 'opens-as-text': 0.95, refused: 0.9, garbled: 0.9, silence: 0.5 },
      seen: `It begins with "${line.slice(0, 60)}".`,
      mend: {
        words: 'fetch the sound again: what was saved is a page or a list, perhaps one that says why it was not sent',
        where: 'card',
      },
    };
  },
};
