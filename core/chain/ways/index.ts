import { formatSeconds } from '../../words/index.ts';
import type { Chain } from '../chain.ts';
import type { ClipSettings } from '../settings.ts';
import type { Way } from '../station.ts';
import { kindsOfWays } from './list.ts';
import { type Trouble, together } from './way.ts';

export { evenLimit } from './cut.ts';
export { type WayForMany, waysForMany } from './for-many.ts';
export { kindsOfWays } from './list.ts';
export { lostAtRate } from './lower-rate.ts';
export type { Candidate, KindOfWay, Member, SetCandidate, Trouble } from './way.ts';
export { together } from './way.ts';

/** Of one kind so many are offered: the first that fits is the one that loses least. */
const MOST_OF_A_KIND = 2;

/** Seconds that are left below the limit; null if there is none. */
function roomIn({ stations: { ends, rate } }: Chain): number | null {
  const { limit, frames } = ends.plan;
  return limit ? (limit.frames - frames) / rate.plan.to : null;
}

/**
 * Ways that were tried and lead out, best first.
 * @param settleWith settles the clip with other settings
 */
export function waysOut(trouble: Trouble, settleWith: (settings: ClipSettings) => Chain): Way[] {
  const { settings } = trouble.chain.order;
  return kindsOfWays.flatMap(({ title: kind, forClip }) => {
    const ways: Way[] = [];
    for (const candidate of forClip?.(trouble) ?? []) {
      if (ways.length === MOST_OF_A_KIND) break;
      const { station, label, isExact } = candidate;
      const changed = together(settings, candidate);
      const tried = settleWith(changed);
      if (tried.obstacles.length) continue;
      const room = roomIn(tried);
      const fits = room !== null && room >= 0.001 ? `: fits with ${formatSeconds(room)} to spare` : ': fits';
      ways.push({ kind, station, wish: changed[station], label: isExact ? label : label + fits });
    }
    return ways;
  });
}
