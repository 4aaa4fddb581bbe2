import { formatCount, formatRate, formatSeconds, hertz, InputError } from '../audio/index.ts';
import { type Chain, type ClipSettings, lowerRates, settle, soundBytesOf, soundWithin } from '../chain/index.ts';
import type { Facts } from '../facts/index.ts';
import { demandsOf, type Target } from '../targets/index.ts';

/** A clip that shares the memory of a device with others. */
export interface BudgetClip {
  readonly facts: Facts;
  readonly settings: ClipSettings;
}

/** A way to make a set fit its memory: what to call it, and the settings of every clip. */
export interface BudgetWay {
  readonly label: string;
  readonly settings: readonly ClipSettings[];
}

interface Fitted {
  readonly clip: BudgetClip;
  readonly chain: Chain;
  readonly bytes: number;
  readonly seconds: number;
}

/** Every clip settled; null where one of them cannot be. */
function fitAll(clips: readonly BudgetClip[], target: Target): readonly Fitted[] | null {
  try {
    return clips.map((clip) => {
      const chain = settle({ ...clip, target });
      const seconds = chain.stations.ends.plan.frames / chain.stations.rate.plan.to;
      return { clip, chain, bytes: soundBytesOf(chain), seconds };
    });
  } catch (error) {
    if (error instanceof InputError) return null;
    throw error;
  }
}

const totalOf = (fitted: readonly Fitted[]) => fitted.reduce((sum, { bytes }) => sum + bytes, 0);

/**
 * The longest that any clip may be so that all of them fit: longer ones give, shorter ones keep what they have.
 * @returns seconds
 */
export function evenLimit(
  clips: readonly { readonly seconds: number; readonly bytes: number }[],
  budget: number,
): number {
  const rising = [...clips].sort((a, b) => a.seconds - b.seconds);
  let left = budget;
  // Bytes a second that the clips which are still longer than the limit take together.
  let rate = rising.reduce((sum, { bytes, seconds }) => sum + bytes / seconds, 0);
  for (const { bytes, seconds } of rising) {
    if (left / rate <= seconds) return left / rate;
    left -= bytes;
    rate -= bytes / seconds;
  }
  return Number.POSITIVE_INFINITY;
}

/** All clips without the silence at their ends. */
function trimmed(fitted: readonly Fitted[]): BudgetWay[] {
  let seconds = 0;
  const settings = fitted.map(({ clip: { facts, settings: before }, chain }) => {
    const { start, end } = chain.stations.cut.plan;
    const cut = soundWithin(facts, { start, end });
    if (!cut || (cut.start === start && cut.end === end)) return before;
    seconds += (end - start - (cut.end - cut.start)) / facts.sampleRate;
    return { ...before, cut };
  });
  return seconds > 0 ? [{ label: `Trim ${formatSeconds(seconds)} of silence in all`, settings }] : [];
}

/** All clips at a lower rate that the sheet accepts, the highest first. */
function slower(fitted: readonly Fitted[], target: Target): BudgetWay[] {
  const highest = Math.max(...fitted.map(({ chain }) => chain.stations.rate.plan.to));
  return lowerRates(demandsOf(target), highest).map((rate) => ({
    label: `${formatRate(hertz(rate))} for all`,
    settings: fitted.map(({ clip: { settings }, chain }) =>
      chain.stations.rate.plan.to <= hertz(rate)
        ? settings
        : {
            ...settings,
            rate: { ...(settings.rate === 'automatic' ? {} : settings.rate), sampleRate: rate },
          },
    ),
  }));
}

/** The longest clips cut behind, all to one length. */
function shorter(fitted: readonly Fitted[], budget: number): BudgetWay[] {
  const limit = evenLimit(fitted, budget);
  if (!(limit > 0.01) || limit === Number.POSITIVE_INFINITY) return [];
  const long = fitted.filter(({ seconds }) => seconds > limit).length;
  const settings = fitted.map(({ clip: { facts, settings: before }, chain, seconds }) => {
    if (seconds <= limit) return before;
    const { start, end } = chain.stations.cut.plan;
    // What Ends adds is taken off as well.
    const length = Math.max(1, Math.floor((end - start) * (limit / seconds)));
    return { ...before, cut: { start, end: Math.min(facts.frames, start + length) } };
  });
  return [
    {
      label: `Cut the ${long === 1 ? 'longest' : `${formatCount(long)} longest`} to ${formatSeconds(limit)}`,
      settings,
    },
  ];
}

/** Where not even the lowest rate is enough: that rate, and the longest clips cut as well. */
function slowestAndShorter(
  clips: readonly BudgetClip[],
  rates: readonly BudgetWay[],
  target: Target,
  budget: number,
): BudgetWay[] {
  const slowest = rates[rates.length - 1];
  const fitted =
    slowest &&
    fitAll(
      clips.map(({ facts }, i) => ({ facts, settings: slowest.settings[i] })),
      target,
    );
  if (!fitted || totalOf(fitted) <= budget) return [];
  return shorter(fitted, budget).map((way) => ({
    ...way,
    label: `${slowest.label}, and ${way.label.replace('Cut', 'cut')}`,
  }));
}

/**
 * Ways to make a set fit the memory that its sheet allows, best first, each of them tried; none where it fits already or
 * the sheet has no such rule.
 */
export function budgetWays(clips: readonly BudgetClip[], target: Target): BudgetWay[] {
  const budget = demandsOf(target).setBytes?.value;
  const fitted = fitAll(clips, target);
  if (budget === undefined || !fitted || totalOf(fitted) <= budget) return [];
  const rates = slower(fitted, target);
  const ways = [
    ...trimmed(fitted),
    ...rates,
    ...slowestAndShorter(clips, rates, target, budget),
    ...shorter(fitted, budget),
  ];
  return ways.flatMap(({ label, settings }) => {
    const tried = fitAll(
      clips.map(({ facts }, i) => ({ facts, settings: settings[i] })),
      target,
    );
    const total = tried ? totalOf(tried) : Number.POSITIVE_INFINITY;
    const room = budget - total;
    if (room < 0) return [];
    return [{ label: `${label}: ${room ? `${formatCount(room)} bytes to spare` : 'fits exactly'}`, settings }];
  });
}
