import type { SourceView } from '@tambur/server';
import { useEffect, useState } from 'react';
import { useStore } from 'zustand';
import { Player } from '../sound/player.ts';
import { sourceReader } from '../sound/samples.ts';

/** Plays one source of the shelf at a time, piece by piece from the server. */
export function useShelfPlayer() {
  const [player] = useState(() => new Player());
  const [id, setId] = useState<string | null>(null);
  const playing = useStore(player.store, (state) => state.playing);
  const problem = useStore(player.store, (state) => state.problem);
  useEffect(() => () => player.close(), [player]);

  const toggle = (source: SourceView) => {
    if (playing && id === source.id) return player.stop();
    player.stop();
    const reader = sourceReader(source);
    const { sampleRate, frames } = reader;
    player.load({ source: reader, cut: { start: 0, end: frames }, lanes: {}, sampleRate });
    player.listen('source');
    player.seek(0);
    setId(source.id);
    player.toggle();
  };
  return { playingId: playing ? id : null, toggle, stop: () => player.stop(), problem };
}
