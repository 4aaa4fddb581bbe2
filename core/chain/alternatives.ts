import { DITHERS } from '../dsp/index.ts';
import { encodingTitle } from '../facts/index.ts';
import { hertz, USUAL_RATES } from '../numbers/index.ts';
import { demandsOf, type SettledDemands } from '../targets/index.ts';
import { formatBitRate, formatDb, formatRate, InputError } from '../words/index.ts';
import type { Chain } from './chain.ts';
import { type ClipSettings, type StationId, stationIds } from './settings.ts';
import { settle } from './settle.ts';
import { widelyRead } from './stations/depth.ts';
import { possibleBitRates } from './stations/wrap.ts';
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

interface Candidate {
  readonly label: string;
  readonly wish: object;
}

/** dBFS and LUFS (common practice, no source). */
const PEAKS = [-1, -3, -6];
const LOUDNESSES = [-16, -23];

const byStation: { readonly [Id in StationId]?: (chain: Chain, demands: SettledDemands) => readonly Candidate[] } = {
  channels: () => [
    { label: 'left', wish: { mode: 'left' } },
    { label: 'right', wish: { mode: 'right' } },
    { label: 'both mixed', wish: { mode: 'mix' } },
    { label: 'both mixed, equal power', wish: { mode: 'equal-power' } },
    { label: 'all kept', wish: { mode: 'keep' } },
  ],
  rate: ({ order }, { sampleRates, rateRange }) => {
    const { least = 0, most = Number.POSITIVE_INFINITY } = rateRange?.value ?? {};
    const highest = Math.max(order.facts.sampleRate, least);
    const rates = sampleRates?.value ?? [...USUAL_RATES, order.facts.sampleRate];
    return [...new Set(rates)]
      .filter((rate) => hertz(rate) >= least && hertz(rate) <= Math.min(most, highest))
      .sort((a, b) => hertz(b) - hertz(a))
      .map((rate) => ({ label: formatRate(hertz(rate)), wish: { sampleRate: rate } }));
  },
  level: () => [
    ...PEAKS.map((peakDb) => ({ label: `peak ${formatDb(peakDb, 'dBFS')}`, wish: { peakDb } })),
    ...LOUDNESSES.map((loudness) => ({ label: formatDb(loudness, 'LUFS'), wish: { loudness } })),
    { label: 'as it came', wish: { gainDb: 0 } },
  ],
  depth: ({ stations: { depth, wrap } }) => {
    const better = widelyRead(depth.plan, wrap.plan.encoding);
    return [
      ...(better ? [{ label: `${better} bit`, wish: { bits: better } }] : []),
      ...DITHERS.map((dither) => ({ label: dither === 'none' ? 'no dither' : `${dither} dither`, wish: { dither } })),
    ];
  },
  wrap: ({ stations: { rate, channels, wrap } }, { encodings, bitRate }) => {
    const { anyOf = null, least = 0, most = Number.POSITIVE_INFINITY } = bitRate?.value ?? {};
    const rates = possibleBitRates(wrap.plan, rate.plan.to, channels.plan.matrix.length) ?? [];
    return [
      ...(encodings?.value ?? []).map((encoding) => ({ label: encodingTitle(encoding), wish: { encoding } })),
      ...rates
        .filter((value) => value >= least && value <= most && (anyOf?.includes(value) ?? true))
        .toReversed()
        .map((value) => ({ label: formatBitRate(value), wish: { bitRate: value } })),
    ];
  },
};

/** Stations whose choices can be compared. */
export const STATIONS_WITH_ALTERNATIVES: readonly StationId[] = stationIds.filter((id) => byStation[id]);

/** What makes the sound different: the plans of a chain. */
const planText = ({ stations }: Chain) => JSON.stringify(stationIds.map((id) => stations[id].plan));

/**
 * What a station could do instead, each settled with all else as it is; the first is what it would do by itself. Without
 * those that come to the same, and those with an obstacle where others have none.
 */
export function alternativesOf(chain: Chain, id: StationId): Alternative[] {
  const { order } = chain;
  const candidates = byStation[id]?.(chain, demandsOf(order.target)) ?? [];
  /** Goals of a level exclude each other. */
  const before = id === 'level' ? { ...order.settings, level: 'automatic' as const } : order.settings;
  const settled = [
    { label: 'automatic', settings: { ...order.settings, [id]: 'automatic' } },
    ...candidates.map(({ label, wish }) => ({ label, settings: together(before, { station: id, wish }) })),
  ].flatMap(({ label, settings }): Alternative[] => {
    try {
      return [{ label, wish: settings[id], chain: settle({ ...order, settings }) }];
    } catch (error) {
      if (error instanceof InputError) return [];
      throw error;
    }
  });
  const distinct = settled.filter(
    (each, i) => settled.findIndex((other) => planText(other.chain) === planText(each.chain)) === i,
  );
  const fitting = distinct.filter(({ chain: { obstacles } }) => obstacles.length === 0);
  return (fitting.length > 0 ? fitting : distinct).slice(0, MOST);
}
