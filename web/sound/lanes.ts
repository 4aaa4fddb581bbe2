import { createStore } from 'zustand';
import { persist } from 'zustand/middleware';
import { SNAPS, type Snap } from './snap.ts';

/** How lanes are looked at: remembered from one visit to the next. */
interface Lanes {
  /** True: source and result on one axis of time, the cut above its result. */
  readonly isAligned: boolean;
  readonly snap: Snap;
}

export const lanes = createStore<Lanes>()(
  persist((): Lanes => ({ isAligned: false, snap: 'off' }), {
    name: 'tambur.lanes',
    merge: (stored) => {
      const { isAligned, snap } = (stored ?? {}) as Readonly<Record<string, unknown>>;
      return { isAligned: isAligned === true, snap: SNAPS.find((each) => each === snap) ?? 'off' };
    },
  }),
);
