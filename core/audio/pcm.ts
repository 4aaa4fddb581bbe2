import { Room } from '../bytes/index.ts';
import { joinPair, splitFloats } from '../kernel/samples.ts';

/** Decoded audio: one Float32Array per channel, equal lengths, nominal range -1..1. */
export interface Pcm {
  /** Frames per second, in Hz. */
  readonly sampleRate: number;
  readonly channels: readonly Float32Array[];
}

/** Frames in `pcm`; 0 if it has no channel. */
export const frameCount = (pcm: Pcm): number => pcm.channels[0]?.length ?? 0;

/** Two pieces of one channel as one, in memory of its own. */
export function joined(a: Float32Array, b: Float32Array): Float32Array {
  const out = new Float32Array(a.length + b.length);
  out.set(a);
  out.set(b, a.length);
  return out;
}

/**
 * Splits samples in storage order (frame by frame) into channels. A last, incomplete frame is dropped.
 * @param room where the channels are put, from place 1 on
 */
export function deinterleave(samples: Float32Array, channelCount: number, room = new Room()): Float32Array[] {
  const frames = Math.floor(samples.length / channelCount);
  if (channelCount === 1) return [samples];
  const out = Array.from({ length: channelCount }, (_, channel) => room.samples(1 + channel, frames));
  if (channelCount === 2) splitFloats(samples, out[0], out[1]);
  else for (let i = 0; i < channelCount; i++) pick(samples, out[i], i, channelCount);
  return out;
}

function pick(samples: Float32Array, out: Float32Array, from: number, step: number): void {
  for (let frame = 0, at = from; frame < out.length; frame++, at += step) out[frame] = samples[at];
}

/** Joins channels of equal length into storage order (frame by frame). */
export function interleave<T extends Float32Array | Int32Array>(channels: readonly T[], out: T): T {
  if (channels.length === 1) out.set(channels[0]);
  else if (channels.length === 2) joinPair(channels[0], channels[1], out);
  else
    channels.forEach((samples, channel) => {
      for (let frame = 0, at = channel; frame < samples.length; frame++, at += channels.length)
        out[at] = samples[frame];
    });
  return out;
}

/** Samples as the whole numbers of so many bits that they were: exact for up to 24. */
export function levelsOf(samples: Float32Array, bits: number): Int32Array {
  const scale = 2 ** (bits - 1);
  const out = new Int32Array(samples.length);
  for (let i = 0; i < out.length; i++) out[i] = Math.round(samples[i] * scale);
  return out;
}

/**
 * Sound that is read in ranges, so that memory does not grow with its length: a file on disk, ranges over HTTP, or
 * plain memory.
 */
export interface PcmReader {
  readonly sampleRate: number;
  readonly channelCount: number;
  readonly frames: number;
  /**
   * `count` frames from `start`, one array per channel. The range lies inside the sound.
   * @param room where they may be put
   */
  read(start: number, count: number, room?: Room): Promise<readonly Float32Array[]>;
}

/** Reads from memory. */
export const pcmReader = (pcm: Pcm): PcmReader => ({
  sampleRate: pcm.sampleRate,
  channelCount: pcm.channels.length,
  frames: frameCount(pcm),
  read: async (start, count) => pcm.channels.map((samples) => samples.subarray(start, start + count)),
});
