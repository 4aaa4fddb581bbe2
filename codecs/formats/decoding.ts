import {
  formatLength,
  formatSeconds,
  InputError,
  type SoundStream,
  type StatedFacts,
  soundSamples,
  WORK_FRAMES,
  workBlocks,
} from '@tambur/core';
import decode from 'audio-decode';
import type { ChannelOrder } from './channel-order.ts';
import { cutOff, damaged } from './format.ts';

/** Names of the library's decoders. */
export type Decoder = 'mp3' | 'aac' | 'oga' | 'opus' | 'm4a' | 'mkv' | 'avi' | 'wma' | 'amr' | 'ac3';

export interface DecodingStep {
  readonly channelData: readonly Float32Array[];
  readonly sampleRate: number;
}

/** A decoder at work: takes piece after piece, then none, and gives what came out. */
export type Decoding = ((piece?: Uint8Array) => Promise<DecodingStep> | DecodingStep) & { free(): void };

/** The umbrella's types leave some of its decoders out. */
const decoders = decode as unknown as Readonly<Record<Decoder, () => Promise<Decoding>>>;

/**
 * Bytes decoded at a time. Coded silence can take next to no room, and become a thousand times as much: pieces begin small,
 * and are as large as goes without much more than so many frames coming out of one.
 */
const LEAST_AT_ONCE = 256;
const MOST_AT_ONCE = 1 << 14;
const FRAMES_AT_ONCE = WORK_FRAMES / 2;

/**
 * Feeds pieces to a decoder of the library; gives what comes out, block by block.
 * @param isWhole true if pieces must not be cut
 */
export async function* decoded(
  decoder: Decoder | (() => Promise<Decoding>),
  pieces: Iterable<Uint8Array>,
  isWhole: boolean,
): AsyncGenerator<DecodingStep> {
  const decoding = await (typeof decoder === 'string' ? decoders[decoder]() : decoder());
  let size = LEAST_AT_ONCE;
  try {
    for (const piece of pieces) {
      for (let at = 0; at < piece.length; ) {
        const part = isWhole ? piece : piece.subarray(at, at + size);
        at += part.length;
        const step = await decoding(part);
        const frames = step.channelData[0]?.length ?? 0;
        if (frames > FRAMES_AT_ONCE) size = Math.max(LEAST_AT_ONCE, size / 2);
        else if (2 * frames < FRAMES_AT_ONCE) size = Math.min(MOST_AT_ONCE, 2 * size);
        if (frames > 0) yield step;
      }
    }
    const rest = await decoding();
    if (rest.channelData[0]?.length) yield rest;
  } finally {
    decoding.free();
  }
}

/**
 * The library gives equal channels as one and mono sometimes as two: the file's word counts. `order` tells which of the
 * decoder's channels each of ours is. Numbers that are none stay out.
 */
const withChannels = (
  channels: readonly Float32Array[],
  count: number,
  order: readonly number[] | undefined,
): readonly Float32Array[] =>
  Array.from({ length: count }, (_, i) =>
    soundSamples(channels[order?.[i] ?? i] ?? channels[channels.length - 1] ?? new Float32Array(0)),
  );

type Block = readonly Float32Array[];

interface Feeding {
  /** True if the decoder does not bear pieces to be cut anywhere: they are fed as they come. */
  readonly isWhole?: boolean;
  /** Where the decoder's channels are in another order than ours. */
  readonly order?: ChannelOrder;
  /** Frames of the encoder's own at the end, which the library does not take off. */
  readonly dropped?: number;
  /** Frames that the container promises, roughly: far fewer are said. */
  readonly promised?: number | null;
}

/** A file may end that much earlier than it says before this is worth a word: clocks of containers are coarse. */
const ROUGHLY_S = 0.25;

const lengthOf = (block: Block): number => block[0]?.length ?? 0;

/** All blocks but for the last `dropped` frames. */
async function* withoutEnd(blocks: AsyncIterable<Block>, dropped: number): AsyncGenerator<Block> {
  const buffered: Block[] = [];
  let frames = 0;
  for await (const block of blocks) {
    // Decoders use their memory again: what is kept is a copy.
    buffered.push(dropped > 0 ? block.map((samples) => samples.slice()) : block);
    frames += lengthOf(block);
    for (let next = buffered[0]; next && frames - lengthOf(next) >= dropped; next = buffered[0]) {
      buffered.shift();
      frames -= lengthOf(next);
      yield next;
    }
  }
  let kept = frames - dropped;
  for (const block of buffered) {
    const count = Math.min(lengthOf(block), kept);
    if (count > 0) yield block.map((samples) => samples.subarray(0, count));
    kept -= count;
  }
}

/**
 * A stream from pieces of encoded sound. The first block is decoded at once: a file that cannot be decoded at all is
 * refused here, and the rate is that of the decoder, as AAC may double what is stated. `pieces` is called again each time
 * that the sound is asked for.
 */
export async function decodedStream(
  title: string,
  decoder: Decoder | (() => Promise<Decoding>),
  pieces: () => Iterable<Uint8Array>,
  facts: StatedFacts,
  { isWhole = false, order = {}, dropped = 0, promised = null }: Feeding = {},
): Promise<SoundStream> {
  const steps = () => decoded(decoder, pieces(), isWhole);
  const first = await firstStep(title, steps());
  // What the file says of its channels counts, if it says anything.
  const channels = facts.channels || first.channelData.length;
  const { sampleRate } = first;
  let trouble: unknown;

  async function* decodedBlocks(): AsyncGenerator<Block> {
    trouble = undefined;
    let hasSound = false;
    try {
      for await (const { channelData } of steps()) {
        hasSound = true;
        yield* workBlocks(withChannels(channelData, channels, order[channels]));
      }
    } catch (error) {
      if (!hasSound) throw error instanceof InputError ? error : damaged(title, error);
      trouble = error;
    }
  }

  return {
    stated: { ...facts, channels, sampleRate },
    blocks: () => withoutEnd(decodedBlocks(), dropped),
    laterWarnings(frames) {
      if (trouble !== undefined) {
        return [`The file is damaged after ${formatLength(frames, sampleRate)}; what comes before that is used.`];
      }
      if (promised !== null && frames < promised - ROUGHLY_S * sampleRate) {
        return [
          cutOff(
            `it promises ${formatSeconds(promised / sampleRate)}, ${formatSeconds(frames / sampleRate)} are there.`,
          ),
        ];
      }
      return [];
    },
  };
}

async function firstStep(title: string, steps: AsyncGenerator<DecodingStep>): Promise<DecodingStep> {
  try {
    for await (const step of steps) return step;
  } catch (error) {
    throw error instanceof InputError ? error : damaged(title, error);
  }
  throw new InputError('no-frames', `The ${title} file holds no sound: it has 0 frames; choose another file.`);
}
