import { deinterleave, type Facts, type PcmReader } from '@tambur/core';
import type { SourceView, WholeView } from '@tambur/server';
import { LRUCache } from 'lru-cache';
import { fetchFloats } from '../api/client.ts';

/** Frames fetched at a time, and how many such blocks are kept by the page and by each of its workers: about 12 MB of stereo. */
const BLOCK = 131_072;
const BLOCKS_KEPT = 12;

const blocks = new LRUCache<string, Promise<readonly Float32Array[]>>({ max: BLOCKS_KEPT });

/** A sound that lies on the server, from where it is read in ranges. */
export interface StoredSound {
  /** Its address. */
  readonly path: string;
  readonly facts: Pick<Facts, 'sampleRate' | 'channels' | 'frames'>;
}

export const soundOfSource = ({ id, facts }: SourceView): StoredSound => ({ path: `/api/sources/${id}`, facts });

export const soundOfWhole = ({ id, facts }: WholeView): StoredSound => ({ path: `/api/wholes/${id}`, facts });

/** What is heard of a whole on its device. */
export const soundOnDevice = ({ id }: WholeView, facts: StoredSound['facts']): StoredSound => ({
  path: `/api/wholes/device/${id}`,
  facts,
});

/** One aligned block of a sound's samples; the latest blocks are kept. */
function block({ path, facts }: StoredSound, index: number): Promise<readonly Float32Array[]> {
  const key = `${path}:${index}`;
  const { frames, channels } = facts;
  const start = index * BLOCK;
  const known = blocks.get(key);
  if (known) return known;
  const count = Math.min(BLOCK, frames - start);
  const found = fetchFloats(`${path}/samples?start=${start}&count=${count}`).then((samples) =>
    deinterleave(samples, channels),
  );
  blocks.set(key, found);
  found.catch(() => blocks.delete(key));
  return found;
}

/** Reads a sound on the server in ranges, through a cache. Works in the page and in a worker. */
export const storedReader = (sound: StoredSound): PcmReader => ({
  sampleRate: sound.facts.sampleRate,
  channelCount: sound.facts.channels,
  frames: sound.facts.frames,
  async read(start, count) {
    const out = Array.from({ length: sound.facts.channels }, () => new Float32Array(count));
    const first = Math.floor(start / BLOCK);
    const last = Math.floor((start + count - 1) / BLOCK);
    const parts = await Promise.all(Array.from({ length: last - first + 1 }, (_, i) => block(sound, first + i)));
    parts.forEach((part, i) => {
      const partStart = (first + i) * BLOCK;
      part.forEach((samples, channel) => {
        const from = Math.max(0, start - partStart);
        out[channel]?.set(samples.subarray(from, start + count - partStart), partStart + from - start);
      });
    });
    return out;
  },
});

export const sourceReader = (source: SourceView): PcmReader => storedReader(soundOfSource(source));
