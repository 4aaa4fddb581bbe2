import { type Chain, plansOf } from './chain.ts';
import { stationIds, stations } from './settings.ts';
import type { InPiece, Piece } from './station.ts';

/** A piece of a clip, which is made alike but for what only the whole decides. */
export interface ClipPiece {
  readonly chain: Chain;
  /** What may come out differently in the whole, in words; empty if nothing does. */
  readonly provisional: readonly string[];
}

/**
 * The chain of a piece of a clip: every station does what it does in a piece, and nothing stands in the way.
 * @param range frames of the source, within the cut
 */
export function pieceOf(chain: Chain, range: Pick<Piece, 'start' | 'end'>): ClipPiece {
  const piece = { ...range, facts: chain.order.facts };
  const plans = plansOf(chain);
  const inPiece = stationIds.map((id): readonly [string, InPiece<unknown>] => [
    id,
    stations[id].pieceIn(chain.stations, piece, plans),
  ]);
  const settled = Object.fromEntries(
    inPiece.map(([id, { plan }]) => [id, { ...chain.stations[id as keyof Chain['stations']], plan }]),
  );
  return {
    chain: { ...chain, obstacles: [], stations: settled as Chain['stations'] },
    provisional: inPiece.flatMap(([, { provisional }]) => provisional),
  };
}
