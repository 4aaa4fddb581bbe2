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

/**
 * Gives a player what it plays: the source, and its result.
 * @param result the whole of it, or what reads it piece by piece
 */
export function useMaterial(
  player: Player,
  source: SourceView,
  { start, end }: { readonly start: number; readonly end: number },
  result: Pcm | PcmReader | null,
): void {
  const reader = useMemo(() => sourceReader(source), [source]);
  useEffect(() => {
    const { sampleRate } = reader;
    const made = result && ('channels' in result ? atRate(result, sampleRate) : result);
    player.load({ source: reader, cut: { start, end }, result: made, sampleRate });
  }, [player, reader, start, end, result]);
}
