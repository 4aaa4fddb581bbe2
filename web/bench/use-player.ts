import type { Pcm } from '@tambur/core';
import type { SourceView } from '@tambur/server';
import { useEffect, useMemo, useState } from 'react';
import { useStore } from 'zustand';
import { listening } from '../sound/listening.ts';
import { Player } from '../sound/player.ts';
import { sourceReader } from '../sound/samples.ts';
import { previewWorker } from '../sound/workers/workers.ts';

/** A player for one clip: its source, and its result brought to the source's rate so that both run from one clock. */
export function usePlayer(source: SourceView, cut: { start: number; end: number }, result: Pcm | null): Player {
  const [player] = useState(() => new Player());
  const reader = useMemo(() => sourceReader(source), [source]);
  const { start, end } = cut;

  useEffect(() => {
    let atRate: Promise<Pcm> | undefined;
    const resultAtRate = (pcm: Pcm) => {
      atRate ??= previewWorker.run((remote) => remote.atRate(pcm, reader.sampleRate));
      return atRate;
    };
    const { sampleRate } = reader;
    player.load({ source: reader, cut: { start, end }, result: result && (() => resultAtRate(result)), sampleRate });
  }, [player, reader, start, end, result]);

  const volume = useStore(listening, (state) => state.volume);
  useEffect(() => player.setVolume(volume), [player, volume]);
  useEffect(() => () => player.close(), [player]);
  return player;
}
