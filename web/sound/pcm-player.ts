import { frameCount, type Pcm, pcmReader } from '@tambur/core';
import { useCallback, useEffect, useState } from 'react';
import { useStore } from 'zustand';
import { LanePlayer } from './player.ts';

/** Plays a sound in memory, or a part of it from `start` to `end`; stops when another takes its place. */
export function usePcmPlayer(pcm: Pcm | null, part?: { readonly start: number; readonly end: number }) {
  const [player] = useState(() => new LanePlayer());
  const playing = useStore(player.store, (state) => state.playing);
  const position = useStore(player.store, (state) => state.position);
  const problem = useStore(player.store, (state) => state.problem);
  const start = part?.start ?? 0;
  const end = part?.end ?? (pcm ? frameCount(pcm) : 0);

  useEffect(() => {
    player.stop();
    if (!pcm) return;
    const { sampleRate } = pcm;
    const heard: Pcm = { sampleRate, channels: pcm.channels.map((samples) => samples.subarray(start, end)) };
    player.load({ source: null, cut: { start, end }, lanes: { result: { reader: pcmReader(heard) } }, sampleRate });
    player.listen('result');
    player.seek(start);
  }, [player, pcm, start, end]);
  useEffect(() => () => player.close(), [player]);

  const toggle = useCallback(() => player.toggle(), [player]);
  return { playing, position, problem, toggle };
}
