import {
  type ClipOrder,
  type ClipSettings,
  kindsOfWays,
  type Member,
  type SetCandidate,
  settle,
  soundBytesOf,
} from '../chain/index.ts';
import { demandsOf, type Target } from '../targets/index.ts';
import { formatCount, InputError } from '../words/index.ts';

/** A clip of the set. */
export type BudgetClip = Pick<ClipOrder, 'facts' | 'settings'>;

/** A way to make a set fit: settings for every clip, in order. */
export type BudgetWay = SetCandidate;

/** Every clip settled; null if one of them cannot be. */
function settledMembers(clips: readonly BudgetClip[], target: Target): readonly Member[] | null {
  const demands = demandsOf(target);
  try {
    return clips.map((clip) => {
      const chain = settle({ ...clip, target });
      const { ends, rate } = chain.stations;
      return { ...clip, demands, chain, bytes: soundBytesOf(chain), seconds: ends.plan.frames / rate.plan.to };
    });
  } catch (error) {
    if (error instanceof InputError) return null;
    throw error;
  }
}

const totalOf = (members: readonly Member[]) => members.reduce((sum, { bytes }) => sum + bytes, 0);

/**
 * Ways to make a set fit the memory that its sheet allows, best first, each of them tried; none where it fits already or
 * the sheet has no such rule. Where all that a kind of way can give is not enough, it is offered together with the next
 * kind that makes up for the rest.
 */
export function budgetWays(clips: readonly BudgetClip[], target: Target): BudgetWay[] {
  const budget = demandsOf(target).setBytes?.value;
  const members = settledMembers(clips, target);
  if (budget === undefined || !members || totalOf(members) <= budget) return [];

  const withSettings = (settings: readonly ClipSettings[]) =>
    settledMembers(
      clips.map(({ facts }, i) => ({ facts, settings: settings[i] })),
      target,
    );
  const roomWith = (settings: readonly ClipSettings[]): number => {
    const tried = withSettings(settings);
    return budget - (tried ? totalOf(tried) : Number.POSITIVE_INFINITY);
  };
  const ways: BudgetWay[] = [];
  const offer = ({ label, settings }: SetCandidate): boolean => {
    const room = roomWith(settings);
    if (room < 0) return false;
    ways.push({ label: `${label}: ${room ? `${formatCount(room)} bytes to spare` : 'fits exactly'}`, settings });
    return true;
  };
  for (const [index, kind] of kindsOfWays.entries()) {
    const candidates = kind.forSet?.(members, budget) ?? [];
    const offered = candidates.filter(offer);
    const last = candidates.at(-1);
    if (offered.length || !last) continue;
    const left = withSettings(last.settings);
    const more = kindsOfWays.slice(index + 1).flatMap((next) => (left && next.forSet?.(left, budget)) || []);
    more.find(({ label, settings }) =>
      offer({ label: `${last.label}, and ${label.charAt(0).toLowerCase()}${label.slice(1)}`, settings }),
    );
  }
  return ways;
}
