import type { SourceView } from '@tambur/server';
import { useEffect, useState } from 'react';
import { useStore } from 'zustand';
import { LanePlayer } from './player.ts';
import { sourceReader } from './samples.ts';

/** Frames of a source, from the first to before the last. */
interface Part {
  readonly start: number;
  readonly end: number;
}

/** Plays one source at a time, or a part of it, piece by piece from the server; by the id of the row that asked for it. */
export function useSourcePlayer() {
  const [player] = useState(() => new LanePlayer());
  const [id, setId] = useState<string | null>(null);
  const playing = useStore(player.store, (state) => state.playing);
  const problem = useStore(player.store, (state) => state.problem);
  useEffect(() => () => player.close(), [player]);

  const toggle = (source: SourceView, row = source.id, part?: Part) => {
    if (playing && id === row) return player.stop();
    player.stop();
    const reader = sourceReader(source);
    const { sampleRate, frames } = reader;
    const cut = part ?? { start: 0, end: frames };
    player.load({ source: reader, cut, lanes: {}, sampleRate });
    player.listen('source');
    player.seek(cut.start);
    setId(row);
    player.toggle();
  };
  return { playingId: playing ? id : null, toggle, stop: () => player.stop(), problem };
}
