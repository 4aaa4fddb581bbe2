import { deinterleave, type PcmReader } from '@tambur/core';
import type { SourceView } from '@tambur/server';
import { LRUCache } from 'lru-cache';
import { fetchFloats } from '../api/client.ts';

/** Frames fetched at a time, and how many such blocks are kept by the page and by each of its workers: about 25 MB of stereo. */
const BLOCK = 131_072;
const BLOCKS_KEPT = 24;

const blocks = new LRUCache<string, Promise<readonly Float32Array[]>>({ max: BLOCKS_KEPT });

/** One aligned block of a source's samples; the latest blocks are kept. */
function block(source: SourceView, index: number): Promise<readonly Float32Array[]> {
  const key = `${source.id}:${index}`;
  const { frames, channels } = source.facts;
  const start = index * BLOCK;
  const known = blocks.get(key);
  if (known) return known;
  const count = Math.min(BLOCK, frames - start);
  const found = fetchFloats(`/api/sources/${source.id}/samples?start=${start}&count=${count}`).then((samples) =>
    deinterleave(samples, channels),
  );
  blocks.set(key, found);
  found.catch(() => blocks.delete(key));
  return found;
}

/** Reads a source on the server in ranges, through a cache. Works in the page and in a worker. */
export const sourceReader = (source: SourceView): PcmReader => ({
  sampleRate: source.facts.sampleRate,
  channelCount: source.facts.channels,
  frames: source.facts.frames,
  async read(start, count) {
    const out = Array.from({ length: source.facts.channels }, () => new Float32Array(count));
    const first = Math.floor(start / BLOCK);
    const last = Math.floor((start + count - 1) / BLOCK);
    const parts = await Promise.all(Array.from({ length: last - first + 1 }, (_, i) => block(source, first + i)));
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
