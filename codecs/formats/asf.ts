import { type ByteFile, piecesOf, type SoundStream, type Tag, viewOf, waveEncoding, waveName } from '@tambur/core';
import { decodedStream } from './decoding.ts';
import { damaged, type LibraryFormat, noSound, stated, unsupported } from './format.ts';

// Taken apart here, as the media library does not read WMA.

/** Objects of an ASF file by the first eight bytes of their 128-bit names ("ASF Specification"; from memory). */
const HEADER = '3026b2758e66cf11';
const FILE_PROPERTIES = 'a1dcab8c47a9cf11';
const STREAM_PROPERTIES = '9107dcb7b7a9cf11';
const CONTENT_DESCRIPTION = '3326b2758e66cf11';
const AUDIO_MEDIA = '409e69f84d5bcf11';

const hex = (bytes: Uint8Array): string => Array.from(bytes, (byte) => byte.toString(16).padStart(2, '0')).join('');

const FIELDS = ['title', 'artist', 'copyright', 'comment', 'rating'];

/** The five texts of a content description, in UTF-16. */
function readTags(bytes: Uint8Array): Tag[] {
  const view = viewOf(bytes);
  let at = 10;
  return FIELDS.flatMap((name, i) => {
    const size = view.getUint16(2 * i, true);
    const value = new TextDecoder('utf-16le').decode(bytes.subarray(at, at + size)).replace(/\0+$/, '');
    at += size;
    return value ? [{ name, value }] : [];
  });
}

/** Before the packets come the headers, and the head of the object that holds the packets. */
const DATA_HEADER = 50;

/** Headers are not longer, with a picture in them. */
const LONGEST_HEADERS = 1 << 24;

/** No packet is larger; 0 stands where their sizes differ. */
const LARGEST_PACKET = 1 << 20;

/** The headers with the first packet, then packet by packet: the decoder finds its way in such pieces only. */
function* packetsOf(file: ByteFile, headers: number, packet: number): Generator<Uint8Array> {
  if (packet === 0 || packet > LARGEST_PACKET) {
    yield* piecesOf(file);
    return;
  }
  const first = headers + DATA_HEADER + packet;
  yield file.read(0, first);
  for (let at = first; at < file.size; at += packet) yield file.read(at, at + packet);
}

async function open(file: ByteFile): Promise<SoundStream> {
  const size = Number(viewOf(file.read(0, 24)).getBigUint64(16, true));
  if (size > LONGEST_HEADERS) throw damaged('WMA');
  const header = file.read(0, size);
  const view = viewOf(header);
  let format: DataView | null = null;
  let tags: Tag[] = [];
  let seconds: number | null = null;
  let packet = 0;
  for (let at = 30; at + 24 <= header.length; ) {
    const bytes = Number(view.getBigUint64(at + 16, true));
    if (bytes < 24) break;
    const body = header.subarray(at + 24, at + bytes);
    const name = hex(header.subarray(at, at + 8));
    if (name === STREAM_PROPERTIES && hex(body.subarray(0, 8)) === AUDIO_MEDIA && body.length >= 72) {
      format ??= viewOf(body.subarray(54));
    }
    // The duration counts 100 ns and includes the time by which a player fills its buffer, in ms.
    if (name === FILE_PROPERTIES && body.length >= 76) {
      const properties = viewOf(body);
      packet = properties.getUint32(72, true);
      seconds = Number(properties.getBigUint64(40, true)) / 1e7 - Number(properties.getBigUint64(56, true)) / 1000;
    }
    if (name === CONTENT_DESCRIPTION && body.length >= 10) tags = readTags(body);
    at += bytes;
  }
  if (!format) throw header.length < size ? damaged('WMA') : noSound('WMA');
  const code = format.getUint16(0, true);
  const encoding = waveEncoding(code, 0);
  if (encoding !== 'wma') throw unsupported('WMA', waveName(code));
  const facts = stated({
    container: 'asf',
    encoding,
    channels: format.getUint16(2, true),
    sampleRate: format.getUint32(4, true),
    bytes: file.size,
    bitRate: format.getUint32(8, true) * 8 || null,
    tags,
  });
  return decodedStream('WMA', 'wma', () => packetsOf(file, size, packet), facts, {
    isWhole: true,
    promised: seconds === null ? null : seconds * facts.sampleRate,
  });
}

/** WMA, versions 1 and 2. */
export const asf: LibraryFormat = {
  title: 'WMA',
  recognises: (head) => hex(head.subarray(0, 8)) === HEADER,
  open,
};
