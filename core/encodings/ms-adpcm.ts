import { viewOf } from '../bytes/index.ts';
import { clamp } from '../numbers/index.ts';
import { type BlockEncoding, blockCodec, blockEncoder } from './encoding.ts';
import { MOST_CHANNELS_OF_BLOCKS, usualBlockBytes } from './ima-adpcm.ts';

/**
 * Microsoft ADPCM: 4 bits a sample, in blocks that begin, for each channel, with the number of a pair of coefficients, a
 * step and the first two samples (the notes on WAVE format 2; from memory).
 */

/** The coefficients that every file has to begin its own list with, in 1/256. */
export const MS_COEFFICIENTS: readonly (readonly [number, number])[] = [
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

const in16Bits = (value: number) => clamp(value, -32_768, 32_767);

function decodeBlock(
  block: Uint8Array,
  channels: number,
  coefficients: readonly (readonly [number, number])[],
  out: Float32Array,
): number {
  if (block.length < HEADER * channels) return 0;
  const view = viewOf(block);
  const word = (field: number, channel: number) => view.getInt16(channels + 2 * (field * channels + channel), true);
  const state = Array.from({ length: channels }, (_, channel) => ({
    pair: coefficients[block[channel]] ?? coefficients[0],
    step: word(0, channel),
    last: word(1, channel),
    before: word(2, channel),
  }));
  let at = 0;
  for (const { before } of state) out[at++] = before / 32768;
  for (const { last } of state) out[at++] = last / 32768;
  const codes = Math.floor(((block.length - HEADER * channels) * 2) / channels) * channels;
  for (let i = 0; i < codes; i++) {
    const byte = block[HEADER * channels + (i >> 1)];
    const code = i & 1 ? byte & 15 : byte >> 4;
    const channel = state[i % channels];
    out[at++] = advance(channel, channel.pair, code) / 32768;
  }
  return at / channels;
}

interface ChannelState {
  last: number;
  before: number;
  step: number;
}

/** What a code makes of the channel's state: the sample it stands for. */
function advance(channel: ChannelState, [first, second]: readonly [number, number], code: number): number {
  const guess = (channel.last * first + channel.before * second) >> 8;
  channel.before = channel.last;
  channel.last = in16Bits(guess + (code >= 8 ? code - 16 : code) * channel.step);
  channel.step = Math.max(LEAST_STEP, (ADAPTION[code] * channel.step) >> 8);
  return channel.last;
}

/** The code that comes nearest to `sample`. */
function codeFor(channel: ChannelState, [first, second]: readonly [number, number], sample: number): number {
  const guess = (channel.last * first + channel.before * second) >> 8;
  return clamp(Math.round((sample - guess) / channel.step), -8, 7) & 15;
}

/** A step that brings the first samples within reach: a quarter of what the predictor misses, as codes go to seven steps. */
function firstStep(samples: Int32Array, channels: number, channel: number, [first, second]: readonly [number, number]) {
  let sum = 0;
  let count = 0;
  for (let i = 2; i < 5 && i * channels + channel < samples.length; i++) {
    const at = (k: number) => samples[(i - k) * channels + channel];
    sum += Math.abs(at(0) - ((at(1) * first + at(2) * second) >> 8));
    count++;
  }
  return clamp(Math.round(sum / Math.max(1, count) / 4), LEAST_STEP, 32_767);
}

/** Encodes one channel of a block with one pair of coefficients: its codes, its first step and the squared error. */
function tryPair(samples: Int32Array, channels: number, channel: number, pair: readonly [number, number]) {
  const step = firstStep(samples, channels, channel, pair);
  const state: ChannelState = { before: samples[channel], last: samples[channels + channel], step };
  const codes = new Uint8Array(samples.length / channels - 2);
  let error = 0;
  for (let i = 0; i < codes.length; i++) {
    const wanted = samples[(i + 2) * channels + channel];
    codes[i] = codeFor(state, pair, wanted);
    error += (advance(state, pair, codes[i]) - wanted) ** 2;
  }
  return { codes, step, error };
}

/** Encodes one block with, for each channel, the pair of coefficients that errs least. */
function encodeBlock(samples: Int32Array, channels: number, blockBytes: number): Uint8Array {
  const block = new Uint8Array(blockBytes);
  const view = viewOf(block);
  const word = (field: number, channel: number, value: number) =>
    view.setInt16(channels + 2 * (field * channels + channel), value, true);
  for (let channel = 0; channel < channels; channel++) {
    const tries = MS_COEFFICIENTS.map((pair) => tryPair(samples, channels, channel, pair));
    const best = tries.reduce((least, entry, i) => (entry.error < tries[least].error ? i : least), 0);
    const { codes, step } = tries[best];
    block[channel] = best;
    word(0, channel, step);
    word(1, channel, samples[channels + channel]);
    word(2, channel, samples[channel]);
    codes.forEach((code, i) => {
      const at = i * channels + channel;
      block[HEADER * channels + (at >> 1)] |= at & 1 ? code : code << 4;
    });
  }
  return block;
}

const framesOf = (blockBytes: number, channels: number) =>
  2 + Math.floor(((blockBytes - HEADER * channels) * 2) / channels);

export const msAdpcm: BlockEncoding = {
  kind: 'block',
  compression: 'lossy',
  carries: { mostChannels: MOST_CHANNELS_OF_BLOCKS },
  id: 'ms-adpcm',
  title: 'Microsoft ADPCM',
  bitDepth: 4,
  linearBits: 16,
  companded: true,
  silence: (bytes) => new Uint8Array(bytes),
  leastBlockBytes: (channels) => HEADER * channels,
  layout: (channels, sampleRate) => ({ channels, blockBytes: usualBlockBytes(channels, sampleRate) }),
  bytesOf: (frames, { channels, blockBytes }) => Math.ceil(frames / framesOf(blockBytes, channels)) * blockBytes,
  codec(layout) {
    const { channels, blockBytes, coefficients = MS_COEFFICIENTS } = layout;
    return blockCodec(layout, framesOf(blockBytes, channels), (block, out) =>
      decodeBlock(block, channels, coefficients, out),
    );
  },
  encoder(layout) {
    const { channels, blockBytes } = layout;
    return blockEncoder(layout, framesOf(blockBytes, channels), (samples) =>
      encodeBlock(samples, channels, blockBytes),
    );
  },
};
