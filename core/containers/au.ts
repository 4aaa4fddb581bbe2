import { latin1, latin1Bytes, partOf } from '../bytes/index.ts';
import { encodingOf, frameCodec } from '../encodings/index.ts';
import { aroundSamples, type Container } from './container.ts';
import { checkFormat, cutOffWarning, headerCutOff, noFrames, unsupported } from './refusals.ts';

/** AU, also called SND: a 24-byte big-endian header, a text of any length, then the samples (from memory). */
const MAGIC = 0x2e736e64;
const HEADER = 24;
const UNKNOWN_SIZE = 0xffffffff;
/** Of a text, more is not read. */
const LONGEST_TEXT = 4096;

/** Encoding numbers of the header. */
const CODES: Readonly<Record<number, string>> = {
  1: 'mu-law',
  2: 'pcm-s8',
  3: 'pcm-s16be',
  4: 'pcm-s24be',
  5: 'pcm-s32be',
  6: 'float-32be',
  7: 'float-64be',
  27: 'a-law',
};

/** AU / SND. */
export const au: Container = {
  id: 'au',
  title: 'AU',
  extensions: ['au', 'snd'],
  describesItself: true,
  holdsTags: true,
  mostBytes: 2 ** 32 - 1,
  carries: Object.values(CODES),
  recognises: (bytes) => latin1(bytes.subarray(0, 4)) === '.snd',
  read(file) {
    const bytes = file.read(0, HEADER);
    if (bytes.length < HEADER) throw headerCutOff('AU', 'inside its header');
    const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
    const [start, stated, code, sampleRate, channels] = [4, 8, 12, 16, 20].map((at) => view.getUint32(at));
    const id = CODES[code];
    if (!id) throw unsupported('AU', `encoding number ${code}`);
    checkFormat('AU', channels, sampleRate);
    if (start > file.size) throw headerCutOff('AU', 'before its sound begins');
    const encoding = encodingOf(id);
    const codec = frameCodec(encoding, channels);
    const size = stated === UNKNOWN_SIZE ? file.size - start : stated;
    const found = Math.min(size, file.size - start);
    const frames = Math.floor(found / codec.unitBytes);
    if (frames === 0) throw noFrames('AU');
    const note = latin1(file.read(HEADER, Math.min(start, HEADER + LONGEST_TEXT))).trim();
    return {
      container: 'au',
      encoding,
      codec,
      sampleRate,
      channels,
      frames,
      dataAt: start,
      data: partOf(file, start, start + frames * codec.unitBytes),
      tags: note ? [{ name: 'comment', value: note }] : [],
      extras: [],
      warnings: cutOffWarning(size, found),
    };
  },
  write({ encoding, sampleRate, channels, dataBytes, tags = [] }) {
    const code = Object.entries(CODES).find(([, id]) => id === encoding.id)?.[0];
    if (!code) throw new RangeError(`AU does not carry ${encoding.id}`);
    // The text ends with a zero and has room for at least 8 bytes.
    const note = latin1Bytes(tags.find(({ name }) => name === 'comment')?.value ?? '');
    const start = HEADER + 8 * Math.max(1, Math.ceil((note.length + 1) / 8));
    const out = new Uint8Array(start);
    const view = new DataView(out.buffer);
    [MAGIC, start, dataBytes, Number(code), sampleRate, channels].forEach((value, i) => {
      view.setUint32(4 * i, value);
    });
    out.set(note, HEADER);
    return aroundSamples(out, dataBytes);
  },
};
