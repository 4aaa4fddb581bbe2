import { viewOf } from '../bytes/index.ts';
import { type BlockEncoding, blockCodec, blockEncoder } from './encoding.ts';
import { nibbleStream } from './nibble-stream.ts';
import { StepCoder, type StepRule } from './step-coder.ts';

/**
 * IMA ADPCM: 4 bits a sample. As it stands in WAV files, in blocks that begin, for each channel, with the first sample and
 * the step's index (IMA Recommended Practices 3.0, and the notes on WAVE format 0x11; from memory); and bare.
 */

/** Step sizes (IMA Recommended Practices 3.0, table 2; from memory). */
const IMA_STEPS = Int32Array.of(
  7,
  8,
  9,
  10,
  11,
  12,
  13,
  14,
  16,
  17,
  19,
  21,
  23,
  25,
  28,
  31,
  34,
  37,
  41,
  45,
  50,
  55,
  60,
  66,
  73,
  80,
  88,
  97,
  107,
  118,
  130,
  143,
  157,
  173,
  190,
  209,
  230,
  253,
  279,
  307,
  337,
  371,
  408,
  449,
  494,
  544,
  598,
  658,
  724,
  796,
  876,
  963,
  1060,
  1166,
  1282,
  1411,
  1552,
  1707,
  1878,
  2066,
  2272,
  2499,
  2749,
  3024,
  3327,
  3660,
  4026,
  4428,
  4871,
  5358,
  5894,
  6484,
  7132,
  7845,
  8630,
  9493,
  10442,
  11487,
  12635,
  13899,
  15289,
  16818,
  18500,
  20350,
  22385,
  24623,
  27086,
  29794,
  32767,
);

const RULE: StepRule = { name: 'ima', steps: IMA_STEPS, least: -32_768, most: 32_767 };

const HEADER = 4;
/** Codes of one channel that stand together: 4 bytes. */
const GROUP = 8;

/** Decodes one block; gives the frames that are in it. */
function decodeBlock(block: Uint8Array, channels: number, out: Float32Array): number {
  const groups = Math.floor((block.length - HEADER * channels) / (4 * channels));
  if (groups < 0) return 0;
  const view = viewOf(block);
  const coder = new StepCoder(RULE);
  for (let channel = 0; channel < channels; channel++) {
    coder.start(view.getInt16(HEADER * channel, true), block[HEADER * channel + 2]);
    let to = channel;
    out[to] = coder.sample / 32768;
    for (let group = 0; group < groups; group++) {
      const at = HEADER * channels + 4 * (group * channels + channel);
      for (let k = 0; k < GROUP; k++) {
        to += channels;
        out[to] = coder.decode((block[at + (k >> 1)] >> (4 * (k & 1))) & 15) / 32768;
      }
    }
  }
  return 1 + groups * GROUP;
}

/** Encodes one block. The step's index goes on from the block before. */
function encodeBlock(samples: Int32Array, channels: number, blockBytes: number, coders: readonly StepCoder[]) {
  const block = new Uint8Array(blockBytes);
  const view = viewOf(block);
  const groups = (samples.length / channels - 1) / GROUP;
  coders.forEach((coder, channel) => {
    coder.start(samples[channel], coder.index);
    view.setInt16(HEADER * channel, coder.sample, true);
    block[HEADER * channel + 2] = coder.index;
    let from = channel;
    for (let group = 0; group < groups; group++) {
      const at = HEADER * channels + 4 * (group * channels + channel);
      for (let k = 0; k < GROUP; k++) {
        from += channels;
        block[at + (k >> 1)] |= coder.encode(samples[from]) << (4 * (k & 1));
      }
    }
  });
  return block;
}

const framesOf = (blockBytes: number, channels: number) =>
  1 + GROUP * Math.floor((blockBytes - HEADER * channels) / (4 * channels));

/** Bytes of a channel's block by rate: 256 up to 11 025 Hz, then twice and four times as many (notes on WAVE format 0x11). */
export const usualBlockBytes = (channels: number, sampleRate: number): number =>
  256 * channels * (sampleRate > 22_050 ? 4 : sampleRate > 11_025 ? 2 : 1);

/** A file states the size of its blocks in 16 bits: as many channels fit at every rate. */
export const MOST_CHANNELS_OF_BLOCKS = 63;

export const imaAdpcm: BlockEncoding = {
  kind: 'block',
  compression: 'lossy',
  carries: { mostChannels: MOST_CHANNELS_OF_BLOCKS },
  id: 'ima-adpcm',
  title: 'IMA ADPCM',
  bitDepth: 4,
  linearBits: 16,
  companded: true,
  silence: (bytes) => new Uint8Array(bytes),
  decoding(channels, sampleRate) {
    const blockBytes = usualBlockBytes(channels, sampleRate);
    return { kind: 'blocks', rule: RULE, blockBytes, blockFrames: framesOf(blockBytes, channels) };
  },
  leastBlockBytes: (channels) => HEADER * channels,
  layout: (channels, sampleRate) => ({ channels, blockBytes: usualBlockBytes(channels, sampleRate) }),
  bytesOf: (frames, { channels, blockBytes }) => Math.ceil(frames / framesOf(blockBytes, channels)) * blockBytes,
  codec(layout) {
    const { channels, blockBytes } = layout;
    return blockCodec(layout, framesOf(blockBytes, channels), (block, out) => decodeBlock(block, channels, out));
  },
  encoder(layout) {
    const { channels, blockBytes } = layout;
    const coders = Array.from({ length: channels }, () => new StepCoder(RULE));
    return blockEncoder(layout, framesOf(blockBytes, channels), (samples) =>
      encodeBlock(samples, channels, blockBytes, coders),
    );
  },
};

/** Bare codes from the first sample on, as voice chips and processors take them: both begin at sample 0, step 7. */
export const imaAdpcmLow = nibbleStream('ima-adpcm-low', 'bare IMA ADPCM, low nibble first', RULE, 16, 'low');
export const imaAdpcmHigh = nibbleStream('ima-adpcm-high', 'bare IMA ADPCM, high nibble first', RULE, 16, 'high');
