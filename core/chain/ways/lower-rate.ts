import { ENERGY_STEPS, type Facts } from '../../facts/index.ts';
import { hertz, USUAL_RATES } from '../../numbers/index.ts';
import type { SettledDemands } from '../../targets/index.ts';
import { formatDb, formatRate } from '../../words/index.ts';
import { type KindOfWay, together } from './way.ts';

/**
 * How much quieter a lower rate makes the whole sound, in dB; null if there is sound above half of the
 * rate, but nobody has measured how much.
 */
export function lostAtRate({ measures: { bandwidth, energyAbove } }: Facts, rate: number): number | null {
  const edge = rate / 2;
  if (bandwidth === null || bandwidth <= edge) return 0;
  const step = ENERGY_STEPS.findIndex((hz) => Math.abs(hz - edge) < 50);
  const above = step < 0 ? undefined : energyAbove?.[step];
  // What is gone above the edge makes the rest quieter than the whole was: -10 log10(1 - share).
  return above === undefined ? null : -10 * Math.log10(Math.max(1e-9, 1 - 10 ** (above / 10)));
}

/** What a lower rate takes away, in words: "loses 1.2 dB above 4 000 Hz". */
function lossAt(facts: Facts, rate: number): string {
  const edge = rate / 2;
  const lost = lostAtRate(facts, rate);
  if (lost === 0) return 'loses nothing';
  if (lost === null) return `nothing above ${formatRate(edge)} survives`;
  if (lost < 0.05) return `loses next to nothing above ${formatRate(edge)}`;
  return `loses ${formatDb(lost, 'dB')} above ${formatRate(edge)}`;
}

/** Tried where a sheet leaves the rate open: the usual ones, and a half and a quarter of 48 000. */
const TRIED_RATES = [...USUAL_RATES, 24_000, 12_000];

/** Rates below `now` that a sheet accepts, the highest first. */
function lowerRates({ sampleRates, rateRange }: SettledDemands, now: number): (number | string)[] {
  const range = rateRange?.value;
  const open = TRIED_RATES.filter((rate) => !range || (rate >= range.least && rate <= range.most));
  return [...(sampleRates?.value ?? open)].filter((rate) => hertz(rate) < now).sort((a, b) => hertz(b) - hertz(a));
}

/** A lower sample rate that the sheet accepts. */
export const lowerRate: KindOfWay = {
  title: 'Lower the rate',
  forClip({ facts, demands, chain }) {
    const now = chain.stations.rate.plan.to;
    return lowerRates(demands, now).map((rate) => ({
      station: 'rate',
      wish: { sampleRate: rate },
      label: `${formatRate(hertz(rate))} instead of ${formatRate(now)}, ${lossAt(facts, hertz(rate))}`,
    }));
  },
  forSet(members) {
    const rateOf = ({ chain }: (typeof members)[number]) => chain.stations.rate.plan.to;
    const [first] = members;
    return lowerRates(first?.demands ?? {}, Math.max(...members.map(rateOf))).map((rate) => ({
      label: `${formatRate(hertz(rate))} for all`,
      settings: members.map((member) =>
        rateOf(member) <= hertz(rate)
          ? member.settings
          : together(member.settings, { station: 'rate', wish: { sampleRate: rate } }),
      ),
    }));
  },
};
