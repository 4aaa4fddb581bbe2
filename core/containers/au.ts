import { encodingOf } from '../encodings/index.ts';
import { latin1 } from './ascii.ts';
import type { Container } from './container.ts';
import { checkFormat, cutOffWarning, headerCutOff, noFrames, unsupported } from './refusals.ts';

/** AU, also called SND: a 24-byte big-endian header, a text of any length, then the samples (from memory). */
const MAGIC = 0x2e736e64;
const HEADER = 24;
const UNKNOWN_SIZE = 0xffffffff;

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
  carries: Object.values(CODES),
  recognises: (bytes) => latin1(bytes.subarray(0, 4)) === '.snd',
  read(bytes) {
    if (bytes.length < HEADER) throw headerCutOff('AU', 'inside its header');
    const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
    const [start, stated, code, sampleRate, channels] = [4, 8, 12, 16, 20].map((at) => view.getUint32(at));
    const id = CODES[code];
    if (!id) throw unsupported('AU', `encoding number ${code}`);
    checkFormat('AU', channels, sampleRate);
    if (start > bytes.length) throw headerCutOff('AU', 'before its sound begins');
    const encoding = encodingOf(id);
    const size = stated === UNKNOWN_SIZE ? bytes.length - start : stated;
    const data = bytes.subarray(start, start + size);
    const frameBytes = encoding.bytesPerSample * channels;
    const frames = Math.floor(data.length / frameBytes);
    if (frames === 0) throw noFrames('AU');
    const note = latin1(bytes.subarray(HEADER, start)).trim();
    return {
      container: 'au',
      encoding,
      sampleRate,
      channels,
      frames,
      data: data.subarray(0, frames * frameBytes),
      tags: note ? [{ name: 'comment', value: note }] : [],
      extras: [],
      warnings: cutOffWarning(size, data.length),
    };
  },
  write({ encoding, sampleRate, channels, data }) {
    const code = Object.entries(CODES).find(([, id]) => id === encoding.id)?.[0];
    if (!code) throw new RangeError(`AU does not carry ${encoding.id}`);
    // The text has room for at least 8 bytes, which stay empty.
    const start = HEADER + 8;
    const out = new Uint8Array(start + data.length);
    const view = new DataView(out.buffer);
    [MAGIC, start, data.length, Number(code), sampleRate, channels].forEach((value, i) => {
      view.setUint32(4 * i, value);
    });
    out.set(data, start);
    return out;
  },
};
