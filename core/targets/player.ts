import { type Device, revealedBy } from '../standin/index.ts';
import type { Requirement } from './requirements/index.ts';
import type { Target } from './target.ts';

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
