import { type Alternative, alternativesOf, type Chain, messageOf, type StationId } from '@tambur/core';
import type { SourceView } from '@tambur/server';
import { useEffect, useMemo, useRef, useState } from 'react';
import { Pieces, wayOf } from '../sound/pieces.ts';
import type { LanePlayer } from '../sound/player.ts';
import type { RenderedClip } from '../sound/workers/preview-worker.ts';
import { compareWorker } from '../sound/workers/workers.ts';
import type { Beside } from './use-player.ts';

/** An alternative, and what it comes to as soon as that is made. Its label is the name of its lane in the player. */
export interface Compared extends Alternative {
  readonly made: Pick<RenderedClip, 'facts' | 'report' | 'findings'> | null;
  readonly sound: Beside['sound'] | null;
  readonly refused: string | null;
}

/** Renders what a station could do instead, one after the other, of the present cut; nothing if none is asked for. */
export function useAlternatives(
  source: SourceView,
  chain: Chain | null,
  id: StationId | null,
  player: LanePlayer,
): readonly Compared[] {
  const alternatives = useMemo(() => (chain && id ? alternativesOf(chain, id) : []), [chain, id]);
  const [made, setMade] = useState<ReadonlyMap<Alternative, Pick<Compared, 'made' | 'sound' | 'refused'>>>(new Map());

  useEffect(() => {
    let isStale = false;
    const held: (() => void)[] = [];
    const add = (each: Alternative, found: Pick<Compared, 'made' | 'sound' | 'refused'>) =>
      setMade((before) => new Map([...before, [each, found]]));
    const makeAll = async () => {
      for (const each of alternatives) {
        const found = await make(source, each.chain, player.store.getState().position, (release) => held.push(release));
        if (isStale) return;
        if (found) add(each, found);
      }
    };
    setMade(new Map());
    void makeAll();
    return () => {
      isStale = true;
      for (const release of held) release();
    };
  }, [source, alternatives, player]);

  // What is not there any more is not heard any more.
  const before = useRef(alternatives);
  useEffect(() => {
    const { heard } = player.store.getState();
    const isIn = (list: readonly Alternative[]) => list.some(({ label }) => label === heard);
    if (isIn(before.current) && !isIn(alternatives)) player.listen('result');
    before.current = alternatives;
  }, [alternatives, player]);

  return useMemo(
    () => alternatives.map((each) => ({ ...each, ...(made.get(each) ?? { made: null, sound: null, refused: null }) })),
    [alternatives, made],
  );
}

/** What takes long is compared by the piece that the playhead is in, and heard piece by piece. */
async function make(
  source: SourceView,
  chain: Chain,
  position: number,
  onHeld: (release: () => void) => void,
): Promise<Pick<Compared, 'made' | 'sound' | 'refused'> | null> {
  try {
    if (wayOf(chain) !== 'whole') {
      const pieces = new Pieces(source, chain);
      onHeld(pieces.hold());
      const piece = await pieces.at(pieces.indexAt(position));
      if ('refused' in piece) return { made: null, sound: null, refused: piece.refused };
      return { made: piece, sound: pieces.reader(), refused: null };
    }
    const outcome = await compareWorker.run((remote) => remote.preview(source, chain));
    if (outcome === null) return null;
    if ('refused' in outcome) return { made: null, sound: null, refused: outcome.refused };
    return { made: outcome, sound: outcome.pcm, refused: null };
  } catch (error) {
    return { made: null, sound: null, refused: `This could not be made: ${messageOf(error)}` };
  }
}
