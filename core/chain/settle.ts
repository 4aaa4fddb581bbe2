import { containerOf } from '../containers/index.ts';
import { bytesOf, layoutOf, plainEncodingOf } from '../encodings/index.ts';
import type { Facts } from '../facts/index.ts';
import { demandsOf, type Target } from '../targets/index.ts';
import { type ClipSettings, type Plan, type Plans, type StationId, stationIds, stations } from './settings.ts';
import type { Context, Obstacle, SettledStation } from './station.ts';
import { waysOut } from './ways/index.ts';

/** What one file is to be made of, and for which device. */
export interface ClipOrder {
  /** Of the source. */
  readonly facts: Facts;
  readonly settings: ClipSettings;
  readonly target: Target;
  /** The file's name without its extension; without it, "clip". */
  readonly stem?: string;
}

type Settled = { readonly [Id in StationId]: SettledStation<Plan<Id>> };

/** Every station settled: what it will do, why, and what stands in the way. Plain data. */
export interface Chain {
  readonly order: ClipOrder;
  /** In the order in which sound passes. */
  readonly stations: Settled;
  readonly obstacles: readonly Obstacle[];
  /** What the file will be called. */
  readonly fileName: string;
}

/**
 * Settles every station so that the result meets the target, and says what stands in the way. Pure.
 * @throws InputError where a setting by hand cannot be carried out, such as a cut that ends before it starts
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
  const settled: Settled = onDemand((id) => stations[id].settleIn(context, settings, plans));
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

/** True where both make the same file of the same sound. */
export const makesSame = (a: Chain, b: Chain): boolean =>
  a.fileName === b.fileName &&
  stationIds.every((id) => JSON.stringify(a.stations[id].plan) === JSON.stringify(b.stations[id].plan));

/** Bytes of encoded samples that the chain will make; of compressed ones, about. */
export function soundBytesOf({ stations: { channels, rate, ends, depth, wrap } }: Chain): number {
  const count = channels.plan.matrix.length;
  const { encoding, compressed } = wrap.plan;
  const { frames } = ends.plan;
  if (compressed?.bitRate) return Math.round((frames * compressed.bitRate) / 8 / rate.plan.to);
  // Lossless compression never takes more than the samples themselves, but for a few bytes.
  if (compressed) return Math.ceil((frames * count * (depth.plan.bits ?? 16)) / 8);
  const plain = plainEncodingOf(encoding);
  const sampleRate = Math.round(rate.plan.to);
  const dataBytes = bytesOf(plain, frames, layoutOf(plain, count, sampleRate));
  if (wrap.plan.array === null) return dataBytes;
  // Of a file in an array the header is in the device's memory too.
  const packing = { encoding: plain, sampleRate, channels: count, frames, dataBytes, stem: 'x', tags: wrap.plan.tags };
  return containerOf(wrap.plan.container).write(packing).size ?? dataBytes;
}
