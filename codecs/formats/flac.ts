import { type ByteFile, type Extra, piecesOf, viewOf } from '@tambur/core';
import { decodedStream } from './decoding.ts';
import { cutOff, damaged, type LibraryFormat, startsWith, stated } from './format.ts';
import { tagsOf } from './tags.ts';

const BLOCKS = ['stream information', 'padding', 'application', 'seek table', 'comments', 'cue sheet', 'picture'];

/** The metadata blocks of a FLAC file (RFC 9639, section 8). */
function readBlocks(file: ByteFile) {
  const extras: Extra[] = [];
  const head = file.read(0, 42);
  if (head.length < 42) throw damaged('FLAC');
  const view = viewOf(head);
  // 20 bits of rate, 3 of channels, 5 of depth, 36 of frames, from the 11th byte of the first block on.
  const packed = view.getUint32(18);
  let at = 4;
  for (let isLast = false; !isLast && at + 4 <= file.size; ) {
    const [type = 0, a = 0, b = 0, c = 0] = file.read(at, at + 4);
    const bytes = (a << 16) | (b << 8) | c;
    isLast = type >= 128;
    if ((type & 127) > 0) extras.push({ name: BLOCKS[type & 127] ?? `block ${type & 127}`, bytes });
    at += 4 + bytes;
  }
  return {
    extras,
    sampleRate: packed >>> 12,
    channels: ((packed >>> 9) & 7) + 1,
    bitDepth: ((packed >>> 4) & 31) + 1,
    frames: (packed & 15) * 2 ** 32 + view.getUint32(22),
  };
}

/** FLAC. */
export const flac: LibraryFormat = {
  title: 'FLAC',
  recognises: startsWith('fLaC'),
  async open(file) {
    const { extras, sampleRate, channels, bitDepth, frames } = readBlocks(file);
    if (sampleRate === 0) throw damaged('FLAC');
    const facts = stated({
      container: 'flac',
      encoding: 'flac',
      sampleRate,
      channels,
      bitDepth,
      plainBits: bitDepth,
      bytes: file.size,
      bitRateMode: 'variable',
      tags: await tagsOf(file),
      extras,
      expectedFrames: frames || null,
    });
    const stream = await decodedStream('FLAC', 'flac', () => piecesOf(file), facts);
    return {
      ...stream,
      laterWarnings: (found) =>
        frames > found
          ? [cutOff(`its header promises ${frames} frames, ${found} are there.`)]
          : (stream.laterWarnings?.(found) ?? []),
    };
  },
};
