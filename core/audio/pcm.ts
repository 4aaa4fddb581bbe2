/** Decoded audio: one Float32Array per channel, equal lengths, nominal range -1..1. */
export interface Pcm {
  /** Frames per second, in Hz. */
  readonly sampleRate: number;
  readonly channels: readonly Float32Array[];
}

/** Frames in `pcm`; 0 where it has no channel. */
export const frameCount = (pcm: Pcm): number => pcm.channels[0]?.length ?? 0;

/** Splits samples in storage order (frame by frame) into channels. A last, incomplete frame is dropped. */
export function deinterleave(samples: Float32Array, channelCount: number): Float32Array[] {
  const frames = Math.floor(samples.length / channelCount);
  return Array.from({ length: channelCount }, (_, channel) => {
    const out = new Float32Array(frames);
    for (let frame = 0, at = channel; frame < frames; frame++, at += channelCount) out[frame] = samples[at];
    return out;
  });
}

/** Joins channels of equal length into storage order (frame by frame). */
export function interleave<T extends Float32Array | Int32Array>(channels: readonly T[], out: T): T {
  channels.forEach((samples, channel) => {
    for (let frame = 0, at = channel; frame < samples.length; frame++, at += channels.length) out[at] = samples[frame];
  });
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
  /** `count` frames from `start`, one array per channel. The range lies inside the sound. */
  read(start: number, count: number): Promise<readonly Float32Array[]>;
}

/** Reads from memory. */
export const pcmReader = (pcm: Pcm): PcmReader => ({
  sampleRate: pcm.sampleRate,
  channelCount: pcm.channels.length,
  frames: frameCount(pcm),
  read: async (start, count) => pcm.channels.map((samples) => samples.subarray(start, start + count)),
});
