import { createStore } from 'zustand';
import { persist } from 'zustand/middleware';

/** How one listens: remembered from one visit to the next. */
interface Listening {
  /** 0..1. */
  readonly volume: number;
  /** Seconds that are played before the end of a cut, or before the seam of a loop. */
  readonly lead: number;
}

export const LEAD_RANGE = { least: 0.1, most: 30 } as const;

export const listening = createStore<Listening>()(
  persist((): Listening => ({ volume: 1, lead: 1 }), { name: 'tambur.listening' }),
);
