import { demandsOf } from '../targets/index.ts';
import type { Chain, ClipOrder, SettledStations } from './chain.ts';
import { type Plans, type StationId, stationIds, stations } from './settings.ts';
import type { Context } from './station.ts';
import { waysOut } from './ways/index.ts';

/**
 * Settles every station so that the result meets the target, and says what stands in the way. Pure.
 * @throws InputError if a setting by hand cannot be carried out, such as a cut that ends before it starts
 */
export function settle(order: ClipOrder): Chain {
  const context: Context = { facts: order.facts, demands: demandsOf(order.target) };
  const chain = settleAll(context, order);
  if (chain.obstacles.length === 0) return chain;
  const ways = waysOut({ ...context, chain }, (settings) => settleAll(context, { ...order, settings }));
  return { ...chain, obstacles: chain.obstacles.map((obstacle) => ({ ...obstacle, ways })) };
}

function settleAll(context: Context, order: ClipOrder): Chain {
  const { settings, stem = 'clip' } = order;
  // A station is settled when somebody asks for its plan, so one that builds on others comes after them.
  const settled: SettledStations = onDemand((id) => stations[id].settleIn(context, settings, plans));
  const plans: Plans = onDemand((id) => settled[id].plan);
  return {
    order,
    stations: { ...settled },
    obstacles: stationIds.flatMap((id) =>
      stations[id].obstaclesIn(context, plans).map((text) => ({ station: id, text, ways: [] })),
    ),
    fileName: `${stem}.${plans.wrap.extension}`,
  };
}

/** Something for each station, made when it is first asked for. */
function onDemand<Values>(make: (id: StationId) => Values[StationId & keyof Values]): Values {
  const values = {};
  for (const id of stationIds) {
    Object.defineProperty(values, id, {
      enumerable: true,
      configurable: true,
      get() {
        const value = make(id);
        Object.defineProperty(values, id, { enumerable: true, value });
        return value;
      },
    });
  }
  // An object that is made key by key has the type that its keys give it only for us.
  return values as Values;
}
