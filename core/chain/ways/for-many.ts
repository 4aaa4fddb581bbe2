import { formatCount } from '../../words/index.ts';
import type { Chain } from '../chain.ts';
import type { ClipSettings } from '../settings.ts';
import type { Way } from '../station.ts';
import { kindsOfWays } from './list.ts';

/** A way for many clips at once: what to set in which. */
export interface WayForMany {
  readonly label: string;
  /** By clip. */
  readonly changes: ReadonlyMap<string, Partial<ClipSettings>>;
}

const inClips = (count: number) => `in ${formatCount(count)} ${count === 1 ? 'clip' : 'clips'}`;
const changeOf = ({ station, wish }: Way) => ({ [station]: wish }) as Partial<ClipSettings>;
const small = (words: string) => words.charAt(0).toLowerCase() + words.slice(1);

/**
 * Ways for several clips in trouble, what loses least first. All of them are ways out of those clips, and so tried. Where a kind
 * helps only some, the one that loses least helps the others.
 * @param chains of a set, by clip
 */
export function waysForMany(chains: ReadonlyMap<string, Chain>): WayForMany[] {
  /** Of each clip in trouble the best way of each kind. */
  const troubled = [...chains].flatMap(([id, { obstacles }]) => {
    const [obstacle] = obstacles;
    if (!obstacle) return [];
    return [{ id, ways: new Map(obstacle.ways.toReversed().map((way) => [way.kind, way])) }];
  });
  if (troubled.length < 2) return [];
  const ways = kindsOfWays.flatMap(({ title }): WayForMany[] => {
    if (!troubled.some(({ ways }) => ways.has(title))) return [];
    const changes = new Map<string, Partial<ClipSettings>>();
    const counts = new Map([[title, 0]]);
    for (const { id, ways } of troubled) {
      const way = ways.get(title) ?? kindsOfWays.flatMap((kind) => ways.get(kind.title) ?? [])[0];
      if (!way) continue;
      changes.set(id, changeOf(way));
      counts.set(way.kind, (counts.get(way.kind) ?? 0) + 1);
    }
    const words = [...counts].map(([kind, count], i) => `${i === 0 ? kind : small(kind)} ${inClips(count)}`);
    const fit = changes.size === troubled.length ? 'all fit' : `${changes.size} of ${troubled.length} fit`;
    return [{ label: `${words.join(', ')}: ${fit}`, changes }];
  });
  // Two kinds that make up for each other come to the same.
  return ways.filter(({ changes }, i) => ways.findIndex((other) => sameChanges(other.changes, changes)) === i);
}

const sameChanges = (a: WayForMany['changes'], b: WayForMany['changes']): boolean =>
  JSON.stringify([...a]) === JSON.stringify([...b]);
