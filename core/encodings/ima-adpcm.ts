import { type BlockEncoding, blockCodec } from './encoding.ts';

/**
 * IMA ADPCM as it stands in WAV files: 4 bits a sample, in blocks that begin, for each channel, with the first sample and
 * the step's index (IMA Recommended Practices 3.0, and the notes on WAVE format 0x11; from memory).
 */

/** Step sizes (IMA Recommended Practices 3.0, table 2; from memory). */
const STEPS = Int32Array.of(
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

/** By how much a code moves the step's index; the sign bit does not count. */
const MOVES = Int32Array.of(-1, -1, -1, -1, 2, 4, 6, 8);

const HEADER = 4;
/** Codes of one channel that stand together: 4 bytes. */
const GROUP = 8;

const held = (value: number, least: number, most: number) => (value < least ? least : value > most ? most : value);

/** Decodes one block; gives the frames that are in it. */
function decodeBlock(block: Uint8Array, channels: number, out: Float32Array): number {
  const groups = Math.floor((block.length - HEADER * channels) / (4 * channels));
  if (groups < 0) return 0;
  const view = new DataView(block.buffer, block.byteOffset, block.length);
  for (let channel = 0; channel < channels; channel++) {
    let sample = view.getInt16(HEADER * channel, true);
    let index = held(block[HEADER * channel + 2], 0, STEPS.length - 1);
    let to = channel;
    out[to] = sample / 32768;
    for (let group = 0; group < groups; group++) {
      const at = HEADER * channels + 4 * (group * channels + channel);
      for (let k = 0; k < GROUP; k++) {
        const code = (block[at + (k >> 1)] >> (4 * (k & 1))) & 15;
        const step = STEPS[index];
        let difference = step >> 3;
        if (code & 4) difference += step;
        if (code & 2) difference += step >> 1;
        if (code & 1) difference += step >> 2;
        sample = held(code & 8 ? sample - difference : sample + difference, -32768, 32767);
        index = held(index + MOVES[code & 7], 0, STEPS.length - 1);
        to += channels;
        out[to] = sample / 32768;
      }
    }
  }
  return 1 + groups * GROUP;
}

export const imaAdpcm: BlockEncoding = {
  kind: 'block',
  id: 'ima-adpcm',
  title: 'IMA ADPCM',
  bitDepth: 4,
  leastBlockBytes: (channels) => HEADER * channels,
  codec(layout) {
    const { channels, blockBytes } = layout;
    const unitFrames = 1 + GROUP * Math.floor((blockBytes - HEADER * channels) / (4 * channels));
    return blockCodec(layout, unitFrames, (block, out) => decodeBlock(block, channels, out));
  },
};
