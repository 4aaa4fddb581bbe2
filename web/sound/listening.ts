import { clamp, type NumberRange } from '@tambur/core';
import { createStore } from 'zustand';
import { persist } from 'zustand/middleware';

/** How one listens: remembered from one visit to the next. */
interface Listening {
  /** 0..1. */
  readonly volume: number;
  /** Seconds that are played before the end of a cut, or before the seam of a loop. */
  readonly lead: number;
  /** True: everything is heard as loud as the quietest of it. */
  readonly isMatched: boolean;
}

export const LEAD_RANGE = { least: 0.1, most: 30 } as const;
export const VOLUME_RANGE = { least: 0, most: 1 } as const;

/** What was kept, as far as it can be used. */
function kept(value: unknown, { least, most }: NumberRange, usual: number): number {
  return typeof value === 'number' && Number.isFinite(value) ? clamp(value, least, most) : usual;
}

export const listening = createStore<Listening>()(
  persist((): Listening => ({ volume: 1, lead: 1, isMatched: false }), {
    name: 'tambur.listening',
    merge: (stored, usual) => {
      const { volume, lead, isMatched } = (stored ?? {}) as Readonly<Record<string, unknown>>;
      return {
        volume: kept(volume, VOLUME_RANGE, usual.volume),
        lead: kept(lead, LEAD_RANGE, usual.lead),
        isMatched: isMatched === true,
      };
    },
  }),
);
