import { type StationId, stationIds } from '@tambur/core';
import { createStore } from 'zustand';
import { persist } from 'zustand/middleware';
import { SNAPS, type Snap } from '../sound/snap.ts';
import type { View } from '../sound/view.ts';

/** How the bench is looked at: remembered from one clip to the next, and from one visit to the next. */
interface Looks {
  /** True: source and result on one axis of time, the cut above its result. */
  readonly isAligned: boolean;
  readonly snap: Snap;
  /** The station whose panel is open. */
  readonly opened: StationId | null;
  /** Of the source's lane above an open station, in pixels. */
  readonly laneHeight: number;
}

/** Of a lane above an open station, in pixels. */
export const LANE_HEIGHTS = { least: 32, most: 240, usual: 40 } as const;

const laneHeightOf = (value: unknown): number =>
  typeof value === 'number' && value >= LANE_HEIGHTS.least && value <= LANE_HEIGHTS.most ? value : LANE_HEIGHTS.usual;

export const looks = createStore<Looks>()(
  persist(
    (): Looks => ({
      isAligned: false,
      snap: 'off',
      opened: 'cut',
      laneHeight: LANE_HEIGHTS.usual,
    }),
    {
      name: 'tambur.looks',
      merge: (stored) => {
        const { isAligned, snap, opened, laneHeight } = (stored ?? {}) as Readonly<Record<string, unknown>>;
        return {
          isAligned: isAligned === true,
          snap: SNAPS.find((each) => each === snap) ?? 'off',
          opened: opened === null ? null : (stationIds.find((id) => id === opened) ?? 'cut'),
          laneHeight: laneHeightOf(laneHeight),
        };
      },
    },
  ),
);

/** What the lanes of sources showed last, by clip, as long as the page is open. */
const views = new Map<string, View>();

export const viewOfClip = (id: string, frames: number): View => {
  const known = views.get(id);
  return known && known.to <= frames ? known : { from: 0, to: frames };
};

export const rememberView = (id: string, view: View): void => {
  views.set(id, view);
};
