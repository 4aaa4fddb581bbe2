import { partOf } from '../bytes/index.ts';
import {
  blockEncodings,
  codecOf,
  encodings,
  findEncoding,
  frameCodec,
  framesIn,
  layoutOf,
  type SampleEncoding,
} from '../encodings/index.ts';
import { InputError } from '../words/index.ts';
import { aroundSamples, type Container } from './container.ts';

/** The encoding of samples that use only their low `bits`: taken up to the full range. Unsigned ones have no sign to keep. */
function lowBits(encoding: SampleEncoding, bits: number): SampleEncoding {
  if (bits === encoding.bitDepth || encoding.kind === 'float') return encoding;
  const gain = 2 ** (encoding.bitDepth - bits);
  const shift = encoding.isUnsigned ? gain - 1 : 0;
  const { decodePair: _, ...single } = encoding;
  return { ...single, decode: (bytes) => encoding.decode(bytes).map((value) => value * gain + shift) };
}

/** Bare samples. Nothing in the bytes says what they are: whoever reads them has to know. */
export const headerless: Container = {
  id: 'headerless',
  title: 'headerless',
  extensions: ['raw', 'bin', 'pcm'],
  describesItself: false,
  carries: [...encodings, ...blockEncodings].map(({ id }) => id),
  carriesEvery: true,
  recognises: () => false,
  read(file, reading) {
    const encoding = reading && findEncoding(reading.encoding);
    if (!encoding) {
      throw new InputError(
        'not-audio',
        'The file is of no known kind; if it is headerless, say how to read it, or else choose a file with a header.',
      );
    }
    const { skip = 0 } = reading;
    // Packed samples and ADPCM have no bits to spare.
    const bits = encoding.kind === 'block' ? encoding.bitDepth : (reading.bits ?? encoding.bitDepth);
    if (bits < 1 || bits > encoding.bitDepth) {
      throw new InputError(
        'bad-setting',
        `A ${encoding.title} sample does not have ${bits} bits; give 1 to ${encoding.bitDepth}.`,
      );
    }
    const { channels, sampleRate } = reading;
    const codec =
      encoding.kind === 'block'
        ? codecOf(encoding, layoutOf(encoding, channels, sampleRate))
        : frameCodec(lowBits(encoding, bits), channels);
    const size = Math.max(0, file.size - skip);
    const frames = framesIn(codec, channels, size);
    if (frames === 0)
      throw new InputError('no-frames', 'The file is too short to hold one frame; choose another file.');
    const end = skip + (codec.unitFrames === 1 ? frames * codec.unitBytes : size);
    return {
      container: 'headerless',
      encoding,
      codec,
      ...(bits < encoding.bitDepth ? { usedBits: bits } : {}),
      sampleRate,
      channels,
      frames,
      dataAt: skip,
      data: partOf(file, skip, end),
      tags: [],
      extras: [
        ...(skip ? [{ name: 'skipped at the start', bytes: skip }] : []),
        ...(end < file.size ? [{ name: 'incomplete last frame', bytes: file.size - end }] : []),
      ],
      warnings: [],
    };
  },
  write: ({ dataBytes }) => aroundSamples(new Uint8Array(0), dataBytes),
};
