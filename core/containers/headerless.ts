import { InputError } from '../audio/index.ts';
import { encodings, findEncoding } from '../encodings/index.ts';
import type { Container } from './container.ts';

/** Bare samples. Nothing in the bytes says what they are: whoever reads them has to know. */
export const headerless: Container = {
  id: 'headerless',
  title: 'headerless',
  extensions: ['raw', 'bin', 'pcm'],
  describesItself: false,
  carries: encodings.map(({ id }) => id),
  recognises: () => false,
  read(bytes, reading) {
    const encoding = reading && findEncoding(reading.encoding);
    if (!encoding) {
      throw new InputError(
        'not-audio',
        'The file is of no known kind, and headerless bytes do not say what they are; choose a file with a header.',
      );
    }
    const frameBytes = encoding.bytesPerSample * reading.channels;
    const frames = Math.floor(bytes.length / frameBytes);
    if (frames === 0)
      throw new InputError('no-frames', 'The file is too short to hold one frame; choose another file.');
    const left = bytes.length - frames * frameBytes;
    return {
      container: 'headerless',
      encoding,
      sampleRate: reading.sampleRate,
      channels: reading.channels,
      frames,
      data: bytes.subarray(0, frames * frameBytes),
      tags: [],
      extras: left ? [{ name: 'incomplete last frame', bytes: left }] : [],
      warnings: [],
    };
  },
  write: ({ data }) => data,
};
