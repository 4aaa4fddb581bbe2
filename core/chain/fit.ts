import { encodingOf } from '../encodings/index.ts';
import type { Facts } from '../facts/index.ts';
import { demandsOf, type Target } from '../targets/index.ts';
import { type ClipSettings, type Plan, type StationId, stationIds, stations } from './settings.ts';
import type { Context, Obstacle, SettledStation, Station } from './station.ts';

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
export function fit(facts: Facts, settings: ClipSettings, target: Target): Chain {
  const context: Context = { facts, demands: demandsOf(target) };
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

/** Bytes of encoded samples that the chain will make. */
export function soundBytesOf({ stations: { channels, ends, wrap } }: Chain): number {
  return ends.plan.frames * channels.plan.matrix.length * encodingOf(wrap.plan.encoding).bytesPerSample;
}
