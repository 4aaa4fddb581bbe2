import { type Pcm, type PcmReader, pcmReader } from '@tambur/core';
import type { SourceView } from '@tambur/server';
import { useEffect, useMemo, useState } from 'react';
import { useStore } from 'zustand';
import { atRate } from '../sound/late-reader.ts';
import { listening } from '../sound/listening.ts';
import { LanePlayer } from '../sound/player.ts';
import { sourceReader } from '../sound/samples.ts';

/** A player for one clip. */
export function usePlayer(): LanePlayer {
  const [player] = useState(() => new LanePlayer());
  const volume = useStore(listening, (state) => state.volume);
  useEffect(() => player.setVolume(volume), [player, volume]);
  useEffect(() => () => player.close(), [player]);
  return player;
}

/** A sound beside the source: a whole in memory, or what reads it piece by piece. */
export interface Beside {
  readonly sound: Pcm | PcmReader;
  /** Linear; 1 if there is none. */
  readonly gain?: number;
}

/** Gives a player what it plays: the source, and lanes beside it by their names. `lanes` is the same object while they are the same. */
export function useMaterial(
  player: LanePlayer,
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
      const made = known.get(sound) ?? atRate('channels' in sound ? pcmReader(sound) : sound, sampleRate);
      known.set(sound, made);
      return made;
    };
    const made = Object.entries(lanes).map(([name, { sound, gain = 1 }]) => [name, { reader: readerOf(sound), gain }]);
    player.load({ source: reader, sourceGain, cut: { start, end }, lanes: Object.fromEntries(made), sampleRate });
  }, [player, reader, start, end, lanes, sourceGain, known]);
}
