import type { Facts } from '../../facts/index.ts';
import type { SettledDemands } from '../../targets/index.ts';
import type { Chain } from '../chain.ts';
import type { ClipSettings, StationId } from '../settings.ts';

/** A clip that does not meet its sheet: everything that ways out of it are made of. */
export interface Trouble {
  readonly facts: Facts;
  readonly demands: SettledDemands;
  readonly chain: Chain;
}

/** A way that may lead out: what to set at which station, and what to call it. */
export interface Candidate {
  readonly station: StationId;
  /** Entries of the station's wish; what else is set there stays. */
  readonly wish: object;
  readonly label: string;
  /** True if the result is as long as is allowed, so that nothing is to be said of room that is left. */
  readonly isExact?: boolean;
}

/** One clip of a set that takes too much. */
export interface Member extends Trouble {
  readonly settings: ClipSettings;
  /** Of the encoded samples. */
  readonly bytes: number;
  readonly seconds: number;
}

/** A way for a whole set: settings for each of its clips. */
export interface SetCandidate {
  readonly label: string;
  readonly settings: readonly ClipSettings[];
}

/** A kind of way out. */
export interface KindOfWay {
  /** What it does, as one is told to do it; "in 5 clips" may follow. */
  readonly title: string;
  /** For one clip: what may lead out, what loses least first. */
  forClip?(trouble: Trouble): readonly Candidate[];
  /**
   * For the clips of a set that takes too much together: what may bring it within so many bytes, what loses least first.
   */
  forSet?(members: readonly Member[], budget: number): readonly SetCandidate[];
}

/** A wish together with what else is set by hand at its station. */
export function together(settings: ClipSettings, { station, wish }: Pick<Candidate, 'station' | 'wish'>): ClipSettings {
  const before = settings[station];
  return { ...settings, [station]: { ...(before === 'automatic' ? {} : before), ...wish } };
}
