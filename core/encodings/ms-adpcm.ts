import { type BlockEncoding, blockCodec } from './encoding.ts';

/**
 * Microsoft ADPCM: 4 bits a sample, in blocks that begin, for each channel, with the number of a pair of coefficients, a
 * step and the first two samples (the notes on WAVE format 2; from memory).
 */

/** The coefficients that every file has to begin its own list with, in 1/256. */
const STANDARD: readonly (readonly [number, number])[] = [
  [256, 0],
  [512, -256],
  [0, 0],
  [192, 64],
  [240, 0],
  [460, -208],
  [392, -232],
];

/** By how much a code changes the step, in 1/256. */
const ADAPTION = Int32Array.of(230, 230, 230, 230, 307, 409, 512, 614, 768, 614, 512, 409, 307, 230, 230, 230);

const LEAST_STEP = 16;
const HEADER = 7;

const held = (value: number) => (value < -32768 ? -32768 : value > 32767 ? 32767 : value);

function decodeBlock(
  block: Uint8Array,
  channels: number,
  coefficients: readonly (readonly [number, number])[],
  out: Float32Array,
): number {
  if (block.length < HEADER * channels) return 0;
  const view = new DataView(block.buffer, block.byteOffset, block.length);
  const word = (field: number, channel: number) => view.getInt16(channels + 2 * (field * channels + channel), true);
  const state = Array.from({ length: channels }, (_, channel) => {
    const [first, second] = coefficients[block[channel]] ?? coefficients[0];
    return { first, second, step: word(0, channel), last: word(1, channel), before: word(2, channel) };
  });
  let at = 0;
  for (const { before } of state) out[at++] = before / 32768;
  for (const { last } of state) out[at++] = last / 32768;
  const codes = Math.floor(((block.length - HEADER * channels) * 2) / channels) * channels;
  for (let i = 0; i < codes; i++) {
    const byte = block[HEADER * channels + (i >> 1)];
    const code = i & 1 ? byte & 15 : byte >> 4;
    const channel = state[i % channels];
    const guess = (channel.last * channel.first + channel.before * channel.second) >> 8;
    const sample = held(guess + (code >= 8 ? code - 16 : code) * channel.step);
    channel.before = channel.last;
    channel.last = sample;
    channel.step = Math.max(LEAST_STEP, (ADAPTION[code] * channel.step) >> 8);
    out[at++] = sample / 32768;
  }
  return at / channels;
}

export const msAdpcm: BlockEncoding = {
  kind: 'block',
  id: 'ms-adpcm',
  title: 'Microsoft ADPCM',
  bitDepth: 4,
  leastBlockBytes: (channels) => HEADER * channels,
  codec(layout) {
    const { channels, blockBytes, coefficients = STANDARD } = layout;
    const unitFrames = 2 + Math.floor(((blockBytes - HEADER * channels) * 2) / channels);
    return blockCodec(layout, unitFrames, (block, out) => decodeBlock(block, channels, coefficients, out));
  },
};
