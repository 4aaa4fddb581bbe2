import { type ByteFile, piecesOf, type SoundStream, windowed } from '@tambur/core';
import { decodedStream } from './decoding.ts';
import { cutOff, type LibraryFormat, startsWith, stated, text } from './format.ts';

// Taken apart here, as the media library does not read AMR.

/** Bytes of a frame with its header, by the four bits of its type (RFC 4867, section 5.3, and 3GPP TS 26.101; from memory). */
const NARROW = [13, 14, 16, 18, 20, 21, 27, 32, 6, 1, 1, 1, 1, 1, 1, 1];
const WIDE = [18, 24, 33, 37, 41, 47, 51, 59, 61, 6, 1, 1, 1, 1, 1, 1];

const FRAMES_PER_SECOND = 50;

/** Goes from frame to frame. */
function survey(source: ByteFile, start: number, sizes: readonly number[]) {
  const file = windowed(source);
  const types = new Set<number>();
  let at = start;
  let count = 0;
  while (at < file.size) {
    const type = ((file.read(at, at + 1)[0] ?? 0) >> 3) & 15;
    types.add(type);
    at += sizes[type] ?? 1;
    count++;
  }
  return { count, isConstant: types.size === 1, isWhole: at === file.size };
}

async function open(file: ByteFile): Promise<SoundStream> {
  const isWide = text(file.read(0, 9), 0, 9) === '#!AMR-WB\n';
  const start = isWide ? 9 : 6;
  const { count, isConstant, isWhole } = survey(file, start, isWide ? WIDE : NARROW);
  const facts = stated({
    container: 'amr',
    encoding: isWide ? 'amr-wb' : 'amr-nb',
    sampleRate: isWide ? 16_000 : 8_000,
    channels: 1,
    bytes: file.size,
    bitRate: Math.round(((file.size - start) * 8 * FRAMES_PER_SECOND) / Math.max(1, count)),
    bitRateMode: isConstant ? 'constant' : 'variable',
    warnings: isWhole ? [] : [cutOff('its last frame is incomplete.')],
  });
  return decodedStream('AMR', 'amr', () => piecesOf(file), facts);
}

/** AMR, narrowband and wideband. */
export const amr: LibraryFormat = { title: 'AMR', recognises: startsWith('#!AMR\n', '#!AMR-WB\n'), open };
