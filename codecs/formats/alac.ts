import { alacInfo, decodeAlacPacket } from '@tambur/core';
import type { Decoding, DecodingStep } from './decoding.ts';
import { damaged } from './format.ts';

/** The part of a stream that is meant to be heard, in seconds. */
interface Window {
  readonly start: number;
  readonly duration?: number | undefined;
}

/**
 * Decodes packets of ALAC that stand without a container, one at a time. Our own: what libraries offer takes as much
 * memory as a description or a packet claims.
 * @throws InputError if the description is damaged
 */
export function alacDecoding(title: string, description: Uint8Array, window: Window | null): () => Promise<Decoding> {
  const info = infoOf(title, description);
  const { sampleRate, bitDepth } = info;
  const scale = 2 ** (bitDepth - 1);
  return async () => {
    let skipped = Math.round((window?.start ?? 0) * sampleRate);
    let left = window?.duration === undefined ? Number.POSITIVE_INFINITY : Math.round(window.duration * sampleRate);
    const step = (packet?: Uint8Array): DecodingStep => {
      if (!packet || left <= 0) return { channelData: [], sampleRate };
      const levels = decodeAlacPacket(packet, info);
      const frames = levels[0]?.length ?? 0;
      const from = Math.min(skipped, frames);
      const to = Math.min(frames, from + left);
      skipped -= from;
      left -= to - from;
      const channelData = levels.map((channel) =>
        Float32Array.from(channel.subarray(from, to), (level) => level / scale),
      );
      return { channelData, sampleRate };
    };
    return Object.assign(step, { free: () => undefined });
  };
}

function infoOf(title: string, description: Uint8Array) {
  try {
    return alacInfo(description);
  } catch (error) {
    throw damaged(title, error);
  }
}
