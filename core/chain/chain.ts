import { containerOf } from '../containers/index.ts';
import { bytesOf, layoutOf, plainEncodingOf } from '../encodings/index.ts';
import type { Facts } from '../facts/index.ts';
import type { Target } from '../targets/index.ts';
import type { RenderReport } from './report.ts';
import { type ClipSettings, type Plan, type Plans, type StationId, stationIds, stations } from './settings.ts';
import type { Format, Obstacle, SettledStation } from './station.ts';

/** What one file is to be made of, and for which device. */
export interface ClipOrder {
  /** Of the source. */
  readonly facts: Facts;
  readonly settings: ClipSettings;
  readonly target: Target;
  /** The file's name without its extension; without it, "clip". */
  readonly stem?: string;
}

/** Every station, settled. */
export type SettledStations = { readonly [Id in StationId]: SettledStation<Plan<Id>> };

/** Every station settled: what it will do, why, and what stands in the way. Plain data. */
export interface Chain {
  readonly order: ClipOrder;
  /** In the order in which sound passes. */
  readonly stations: SettledStations;
  readonly obstacles: readonly Obstacle[];
  /** What the file will be called. */
  readonly fileName: string;
}

/** The plans of all stations. */
export const plansOf = ({ stations: settled }: Chain): Plans =>
  Object.fromEntries(stationIds.map((id) => [id, settled[id].plan])) as unknown as Plans;

/** The format of the result. */
export const formatOf = ({ order: { facts }, stations: settled }: Chain): Format =>
  stationIds.reduce<Format>((format, id) => stations[id].formatIn(settled, format), {
    sampleRate: facts.sampleRate,
    channels: facts.channels,
  });

/** Where in the source a frame of the result comes from, in frames; what was added in front comes from before its cut. */
export const sourceFrame = ({ stations: settled }: Chain, report: RenderReport, frame: number): number =>
  stationIds.reduceRight((place, id) => stations[id].placeIn(settled, place, report), frame);

/** True if both do the same to the same sound. */
export const doesSame = (a: Chain, b: Chain): boolean => JSON.stringify(plansOf(a)) === JSON.stringify(plansOf(b));

/** True if both make the same file of the same sound. */
export const makesSame = (a: Chain, b: Chain): boolean => a.fileName === b.fileName && doesSame(a, b);

/** Bytes of encoded samples that the chain will make; of compressed ones, about. */
export function soundBytesOf(chain: Chain): number {
  const { rate, ends, depth, wrap } = chain.stations;
  const { channels: count } = formatOf(chain);
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
