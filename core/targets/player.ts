import * as v from 'valibot';
import { type Device, impliedBy, type Player, revealedBy } from '../standin/index.ts';
import { requirementText } from './demands.ts';
import { kindOf, type Requirement, requirementSchema } from './requirements/index.ts';
import type { Target } from './target.ts';

/**
 * What a device with such a player needs of every file, as requirements under the names of their kinds: the one bridge
 * between what a device does and what a sheet asks.
 */
export const requirementsOf = (player: Player): readonly Requirement[] =>
  impliedBy(player).map((implied) => v.parse(requirementSchema, { key: implied.kind, ...implied }));

/** The device that a sheet is about. */
export const deviceOf = ({ player, lists, packs }: Pick<Target, 'player' | 'lists' | 'packs'>): Device => ({
  player,
  lists,
  packs,
});

/** True if the device gives a sign of a file that does not meet the requirement; of what is only advised it never does. */
export const isObservable = (
  { player }: Pick<Target, 'player'>,
  { kind, advised }: Pick<Requirement, 'kind' | 'advised'>,
): boolean => !advised && revealedBy(player).has(kind);

/** Where a sheet asks for less than its player needs: one sentence each. */
export function disagreements({ player, requirements }: Pick<Target, 'player' | 'requirements'>): readonly string[] {
  return requirementsOf(player).flatMap((implied) => {
    const kind = kindOf(implied);
    const asked = requirements.filter((entry) => entry.kind === implied.kind && !entry.advised);
    if (asked.some((entry) => kind.covers?.(entry, implied))) return [];
    const instead = asked.length
      ? `the sheet asks for ${asked.map((entry) => kind.wanted(entry)).join('; ')}`
      : 'the sheet does not ask for that';
    return [`Its player needs ${requirementText(implied)}; ${instead}.`];
  });
}
