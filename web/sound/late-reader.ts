import { framesAtRate, type PcmReader, pcmReader } from '@tambur/core';
import { LRUCache } from 'lru-cache';
import { previewWorker } from './workers/workers.ts';

/** Samples of a result up to which all of it is brought to another rate at once: 16 MB. */
const AT_ONCE = 4e6;
/** Longer ones are brought there by so many seconds, with a margin on either side that is left away; some of them are kept. */
const SECONDS = 4;
const MARGIN = 1;
const KEPT = 4;

/** A sound brought to another rate when it is read: whole seconds are whole frames at both, so that its parts join. */
export function atRate(sound: PcmReader, sampleRate: number): PcmReader {
  const { sampleRate: rate, channelCount } = sound;
  if (rate === sampleRate) return sound;
  const frames = framesAtRate(sound.frames, rate, sampleRate);
  const brought = async (from: number, to: number) => {
    const channels = await sound.read(from, Math.min(to, sound.frames) - from);
    return previewWorker.run((remote) => remote.atRate({ sampleRate: rate, channels }, sampleRate));
  };
  const facts = { sampleRate, channelCount, frames };
  if (frames * channelCount <= AT_ONCE || !Number.isInteger(rate)) {
    let whole: Promise<PcmReader> | undefined;
    return {
      ...facts,
      read: async (from, count) => {
        whole ??= brought(0, sound.frames).then(pcmReader);
        const reader = await whole;
        return from < reader.frames ? reader.read(from, Math.min(count, reader.frames - from)) : [];
      },
    };
  }
  const parts = new LRUCache<number, Promise<readonly Float32Array[]>>({ max: KEPT });
  const partAt = (index: number): Promise<readonly Float32Array[]> => {
    const known = parts.get(index);
    if (known) return known;
    const begin = Math.max(0, index * SECONDS - MARGIN);
    const end = (index + 1) * SECONDS + MARGIN;
    const made = brought(begin * rate, end * rate).then(({ channels: there }) => {
      const first = (index * SECONDS - begin) * sampleRate;
      return there.map((samples) => samples.slice(first, first + SECONDS * sampleRate));
    });
    parts.set(index, made);
    made.catch(() => parts.delete(index));
    return made;
  };
  return {
    ...facts,
    read: async (from, count) => {
      const taken = Math.max(0, Math.min(count, frames - from));
      const out = Array.from({ length: channelCount }, () => new Float32Array(taken));
      const length = SECONDS * sampleRate;
      for (let at = from; at < from + taken; ) {
        const index = Math.floor(at / length);
        const part = await partAt(index);
        const inside = at - index * length;
        const here = Math.min(length - inside, from + taken - at);
        for (const [channel, samples] of out.entries()) {
          const found = part[channel]?.subarray(inside, inside + here);
          if (found) samples.set(found, at - from);
        }
        at += here;
      }
      return out;
    },
  };
}
