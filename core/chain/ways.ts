import { formatBitRate, formatChannels, formatDb, formatRate, formatSeconds, hertz } from '../audio/index.ts';
import { findEncoding } from '../encodings/index.ts';
import { ENERGY_STEPS, encodingTitle, type Facts } from '../facts/index.ts';
import type { SettledDemands } from '../targets/index.ts';
import type { StationId } from './settings.ts';
import type { Chain } from './settle.ts';
import type { Way } from './station.ts';
import { possibleBitRates } from './stations/wrap.ts';

/** A way that may lead out: what to set at which station, and what to call it. */
interface Candidate {
  readonly station: StationId;
  readonly wish: unknown;
  readonly label: string;
}

/** Everything a candidate is made of. */
interface Trouble {
  readonly facts: Facts;
  readonly demands: SettledDemands;
  readonly chain: Chain;
}

/** What a lower rate takes away, in words: "loses 1.2 dB above 4 000 Hz". */
function lossAt({ measures: { bandwidth, energyAbove } }: Facts, rate: number): string {
  const edge = rate / 2;
  if (bandwidth === null || bandwidth <= edge) return 'loses nothing';
  const step = ENERGY_STEPS.findIndex((hz) => Math.abs(hz - edge) < 50);
  const above = step < 0 ? undefined : energyAbove?.[step];
  if (above === undefined) return `nothing above ${formatRate(edge)} survives`;
  // What is gone above the edge makes the rest quieter than the whole was: -10 log10(1 - share).
  const lost = -10 * Math.log10(Math.max(1e-9, 1 - 10 ** (above / 10)));
  if (lost < 0.05) return `loses next to nothing above ${formatRate(edge)}`;
  return `loses ${formatDb(lost, 'dB')} above ${formatRate(edge)}`;
}

/** What of a cut is not silence at its ends, in frames of the source; null where all of it is silence. */
export function soundWithin(
  { frames, measures }: Facts,
  { start, end }: { readonly start: number; readonly end: number },
): { readonly start: number; readonly end: number } | null {
  const first = Math.max(start, measures.leadingSilence);
  const last = Math.min(end, frames - measures.trailingSilence);
  return first < last ? { start: first, end: last } : null;
}

/** Silence at the ends of what is cut can go without anybody hearing it. */
function trims({ facts, chain }: Trouble): Candidate[] {
  const { start, end } = chain.stations.cut.plan;
  const sound = soundWithin(facts, { start, end });
  if (!sound) return [];
  const { start: first, end: last } = sound;
  const seconds = (frames: number) => formatSeconds(frames / facts.sampleRate);
  const least = facts.sampleRate / 100;
  const front = first - start > least;
  const back = end - last > least;
  return [
    ...(front
      ? [
          {
            station: 'cut' as const,
            wish: { start: first, end },
            label: `Trim ${seconds(first - start)} of silence in front`,
          },
        ]
      : []),
    ...(back
      ? [
          {
            station: 'cut' as const,
            wish: { start, end: last },
            label: `Trim ${seconds(end - last)} of silence behind`,
          },
        ]
      : []),
    ...(front && back
      ? [
          {
            station: 'cut' as const,
            wish: { start: first, end: last },
            label: `Trim ${seconds(end - start - (last - first))} of silence at both ends`,
          },
        ]
      : []),
  ];
}

const bitsOf = (id: string): number => findEncoding(id)?.bitDepth ?? 0;

/** Other encodings that the sheet takes, with fewer bits; and lower bit rates that it takes. */
function encodings({ demands, chain }: Trouble): Candidate[] {
  const { encoding, compressed } = chain.stations.wrap.plan;
  const { rate, channels, wrap } = chain.stations;
  const possible = possibleBitRates(wrap.plan, rate.plan.to, channels.plan.matrix.length);
  if (compressed && possible) {
    const { anyOf = null, least = 0 } = demands.bitRate?.value ?? {};
    // A bit rate that there is not is changed to the nearest ones, one that takes too much to lower ones.
    const usable = possible.includes(compressed.bitRate)
      ? possible.filter((rate) => rate < compressed.bitRate).reverse()
      : possible.toSorted((a, b) => Math.abs(a - compressed.bitRate) - Math.abs(b - compressed.bitRate));
    return usable
      .filter((rate) => rate >= least && (!anyOf || anyOf.includes(rate)))
      .map((bitRate) => ({
        station: 'wrap' as const,
        wish: { bitRate },
        label: `${formatBitRate(bitRate)} instead of ${formatBitRate(compressed.bitRate)}`,
      }));
  }
  return (demands.encodings?.value ?? [])
    .filter((id) => bitsOf(id) > 0 && bitsOf(id) < bitsOf(encoding))
    .map((id) => ({ station: 'wrap' as const, wish: { encoding: id }, label: encodingTitle(id) }));
}

/** Two channels coded together need fewer bits. */
const stereoModes = ({ demands, chain }: Trouble): Candidate[] =>
  chain.stations.wrap.plan.compressed?.stereoMode === 'stereo' && demands.stereoMode?.value !== 'stereo'
    ? [{ station: 'wrap', wish: { stereoMode: 'joint' }, label: 'Joint stereo instead of plain' }]
    : [];

/** Usual rates, tried where a sheet leaves the rate open (common practice, no source). */
const USUAL_RATES = [32_000, 24_000, 22_050, 16_000, 12_000, 11_025, 8000];

/** Rates below `now` that a sheet accepts, the highest first. */
export function lowerRates({ sampleRates, rateRange }: SettledDemands, now: number): (number | string)[] {
  const range = rateRange?.value;
  const open = USUAL_RATES.filter((rate) => !range || (rate >= range.least && rate <= range.most));
  return [...(sampleRates?.value ?? open)].filter((rate) => hertz(rate) < now).sort((a, b) => hertz(b) - hertz(a));
}

function rates({ facts, demands, chain }: Trouble): Candidate[] {
  const now = chain.stations.rate.plan.to;
  return lowerRates(demands, now).map((rate) => ({
    station: 'rate',
    wish: { sampleRate: rate },
    label: `${formatRate(hertz(rate))} instead of ${formatRate(now)}, ${lossAt(facts, hertz(rate))}`,
  }));
}

const channelCounts = ({ demands, chain }: Trouble): Candidate[] =>
  chain.stations.channels.plan.matrix.length > 1 && demands.channelCounts?.value.includes(1)
    ? [
        {
          station: 'channels',
          wish: { mode: 'mix' },
          label: `${formatChannels(1)} instead of ${formatChannels(chain.stations.channels.plan.matrix.length)}`,
        },
      ]
    : [];

/** Ways out of an obstacle are tried one after the other; what loses least comes first. */
const sources: readonly ((trouble: Trouble) => readonly Candidate[])[] = [
  trims,
  encodings,
  stereoModes,
  channelCounts,
  rates,
];

/** Of one kind so many are offered: the first that fits is the one that loses least. */
const MOST_OF_A_KIND = 2;

/** Seconds that are left below the limit; null where there is none. */
function roomIn({ stations: { ends, rate } }: Chain): number | null {
  const { limit, frames } = ends.plan;
  return limit ? (limit.frames - frames) / rate.plan.to : null;
}

/**
 * Ways that were tried and lead out, best first: silence, encodings, channels, rates. `together` joins a wish with what
 * else is set at its station; `settleWith` settles the chain with one station set so.
 */
export function waysOut(
  trouble: Trouble,
  together: (station: StationId, wish: unknown) => unknown,
  settleWith: (station: StationId, wish: unknown) => Chain,
): Way[] {
  return sources.flatMap((source) => {
    const ways: Way[] = [];
    for (const { station, wish: own, label } of source(trouble)) {
      if (ways.length === MOST_OF_A_KIND) break;
      const wish = together(station, own);
      const tried = settleWith(station, wish);
      if (tried.obstacles.length) continue;
      const room = roomIn(tried);
      const fits = room !== null && room >= 0.001 ? `: fits with ${formatSeconds(room)} to spare` : ': fits';
      ways.push({ station, wish, label: label + fits });
    }
    return ways;
  });
}
