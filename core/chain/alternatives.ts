import { demandsOf } from '../targets/index.ts';
import { InputError } from '../words/index.ts';
import { type Chain, doesSame, formatOf, plansOf } from './chain.ts';
import { type ClipSettings, type StationId, stationIds, stations } from './settings.ts';
import { settle } from './settle.ts';
import { together } from './ways/index.ts';

/** Another way to settle one station, all else being equal. */
export interface Alternative {
  /** No two of a station are called the same. */
  readonly label: string;
  /** What is to be wished at the station. */
  readonly wish: ClipSettings[StationId];
  readonly chain: Chain;
}

/** So many have a number key each. */
const MOST = 9;

/** Stations whose choices can be compared. */
export const STATIONS_WITH_ALTERNATIVES: readonly StationId[] = stationIds.filter((id) => stations[id].alternatives);

/**
 * Other settings of a station, each settled with everything else unchanged; the first is the automatic one. Leaves out those
 * with the same result, and those with an obstacle if others have none.
 */
export function alternativesOf(chain: Chain, id: StationId): Alternative[] {
  const { order } = chain;
  const context = { facts: order.facts, demands: demandsOf(order.target) };
  const automatic = { ...order.settings, [id]: 'automatic' };
  const candidates = stations[id].alternativesIn(chain.stations, context, plansOf(chain), formatOf(chain));
  const settled = [
    { label: 'automatic', settings: automatic },
    ...candidates.map(({ label, wish, isAlone }) => ({
      label,
      settings: together(isAlone ? automatic : order.settings, { station: id, wish }),
    })),
  ].flatMap(({ label, settings }): Alternative[] => {
    try {
      return [{ label, wish: settings[id], chain: settle({ ...order, settings }) }];
    } catch (error) {
      if (error instanceof InputError) return [];
      throw error;
    }
  });
  const distinct = settled.filter((each, i) => settled.findIndex((other) => doesSame(other.chain, each.chain)) === i);
  const fitting = distinct.filter(({ chain: { obstacles } }) => obstacles.length === 0);
  return (fitting.length > 0 ? fitting : distinct).slice(0, MOST);
}
