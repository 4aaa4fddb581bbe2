import { bytesOf, layoutOf, plainEncodingOf } from '../encodings/index.ts';
import type { Facts } from '../facts/index.ts';
import { demandsOf, type Target } from '../targets/index.ts';
import { type ClipSettings, type Plan, type StationId, stationIds, stations } from './settings.ts';
import type { Context, Obstacle, SettledStation, Station } from './station.ts';
import { waysOut } from './ways.ts';

/** Every station settled: what it will do, why, and what stands in the way. */
export interface Chain {
  /** In the order in which sound passes. */
  readonly stations: { readonly [Id in StationId]: SettledStation<Plan<Id>> };
  readonly obstacles: readonly Obstacle[];
}

/**
 * Settles every station so that the result meets the target, and says what stands in the way. Pure.
 * @throws InputError where a setting by hand cannot be carried out: a cut that ends before it starts, say
 */
export function fit(facts: Facts, settings: ClipSettings, target: Pick<Target, 'requirements'>): Chain {
  const context: Context = { facts, demands: demandsOf(target) };
  const chain = settleAll(context, settings);
  if (chain.obstacles.length === 0) return chain;
  /** A wish together with what else is set by hand at its station. */
  const together = (station: StationId, wish: unknown) => {
    const before = settings[station];
    return { ...(before === 'automatic' ? {} : before), ...(wish as object) };
  };
  const tried = waysOut({ ...context, chain }, together, (station, wish) =>
    settleAll(context, { ...settings, [station]: wish }),
  );
  return {
    ...chain,
    obstacles: chain.obstacles.map((obstacle) => ({ ...obstacle, ways: [...tried, ...obstacle.ways] })),
  };
}

function settleAll(context: Context, settings: ClipSettings): Chain {
  const settled = new Map<string, SettledStation<unknown>>();
  const plans: Record<string, unknown> = {};
  const obstacles: Obstacle[] = [];

  // A station is settled after those whose plans it needs, which is not always the order of the line.
  const settle = (id: StationId): void => {
    if (settled.has(id)) return;
    const station: Station<unknown, unknown, unknown> = stations[id] as Station<unknown, unknown, unknown>;
    for (const other of station.needs) settle(other as StationId);
    const wish = settings[id];
    const result = station.settle(context, wish === 'automatic' ? undefined : wish, plans);
    settled.set(id, result);
    plans[id] = result.plan;
    obstacles.push(...(station.obstacles?.(context, result.plan, plans) ?? []));
  };
  stationIds.forEach(settle);

  const inOrder = Object.fromEntries(stationIds.map((id) => [id, settled.get(id)]));
  return { stations: inOrder as unknown as Chain['stations'], obstacles };
}

/** Bytes of encoded samples that the chain will make; of compressed ones, about. */
export function soundBytesOf({ stations: { channels, rate, ends, depth, wrap } }: Chain): number {
  const count = channels.plan.matrix.length;
  const { encoding, compressed } = wrap.plan;
  const { frames } = ends.plan;
  if (compressed?.bitRate) return Math.round((frames * compressed.bitRate) / 8 / rate.plan.to);
  // Lossless compression never takes more than the samples themselves, but for a few bytes.
  if (compressed) return Math.ceil((frames * count * (depth.plan.bits ?? 16)) / 8);
  const plain = plainEncodingOf(encoding);
  return bytesOf(plain, frames, layoutOf(plain, count, Math.round(rate.plan.to)));
}
