import { frameCount, framesAtRate, type Pcm, type PcmReader, pcmReader } from '@tambur/core';
import type { SourceView } from '@tambur/server';
import { useEffect, useMemo, useState } from 'react';
import { useStore } from 'zustand';
import { listening } from '../sound/listening.ts';
import { Player } from '../sound/player.ts';
import { sourceReader } from '../sound/samples.ts';
import { previewWorker } from '../sound/workers/workers.ts';

/** A player for one clip. */
export function usePlayer(): Player {
  const [player] = useState(() => new Player());
  const volume = useStore(listening, (state) => state.volume);
  useEffect(() => player.setVolume(volume), [player, volume]);
  useEffect(() => () => player.close(), [player]);
  return player;
}

/** A whole result brought to the source's rate, so that both run from one clock; brought there when it is first read. */
function atRate(pcm: Pcm, sampleRate: number): PcmReader {
  let whole: Promise<PcmReader> | undefined;
  const brought = () => {
    whole ??= previewWorker.run((remote) => remote.atRate(pcm, sampleRate)).then(pcmReader);
    return whole;
  };
  return {
    sampleRate,
    channelCount: pcm.channels.length,
    frames: framesAtRate(frameCount(pcm), pcm.sampleRate, sampleRate),
    read: async (from, count) => {
      const reader = await brought();
      return from < reader.frames ? reader.read(from, Math.min(count, reader.frames - from)) : [];
    },
  };
}

/** A sound beside the source: a whole in memory, or what reads it piece by piece at the source's rate. */
export interface Beside {
  readonly sound: Pcm | PcmReader;
  /** Linear; 1 where there is none. */
  readonly gain?: number;
}

/** Gives a player what it plays: the source, and lanes beside it by their names. `lanes` is the same object while they are the same. */
export function useMaterial(
  player: Player,
  source: SourceView,
  { start, end }: { readonly start: number; readonly end: number },
  lanes: Readonly<Record<string, Beside>>,
  sourceGain = 1,
): void {
  const reader = useMemo(() => sourceReader(source), [source]);
  // A lane that stays keeps its sound at the source's rate.
  const [known] = useState(() => new WeakMap<object, PcmReader>());
  useEffect(() => {
    const { sampleRate } = reader;
    const readerOf = (sound: Pcm | PcmReader): PcmReader => {
      if (!('channels' in sound)) return sound;
      const made = known.get(sound) ?? atRate(sound, sampleRate);
      known.set(sound, made);
      return made;
    };
    const made = Object.entries(lanes).map(([name, { sound, gain = 1 }]) => [name, { reader: readerOf(sound), gain }]);
    player.load({ source: reader, sourceGain, cut: { start, end }, lanes: Object.fromEntries(made), sampleRate });
  }, [player, reader, start, end, lanes, sourceGain, known]);
}
