import type { Cut } from './cut.ts';
import type { Range } from './marks.ts';

/** What an end of a cut goes to when it is dragged. */
export const SNAPS = ['off', 'zero', 'block', 'bar', 'silence'] as const;
export type Snap = (typeof SNAPS)[number];

/** What there is to snap to, in frames of the source. */
export interface Grid {
  /** What one block of the device comes to, and a bar at its tempo; null if it has none. */
  readonly block: number | null;
  readonly bar: number | null;
  readonly silences: readonly Range[];
  /** No farther than this does an edge of silence draw. */
  readonly reach: number;
}

/** Where an end of the cut goes that is dragged to a frame. Zero crossings need samples, and are found when it is let go of. */
export function snapped(snap: Snap, edge: keyof Cut, frame: number, cut: Cut, grid: Grid): number {
  const unit = snap === 'block' ? grid.block : snap === 'bar' ? grid.bar : null;
  if (unit !== null) {
    const [fixed, sign] = edge === 'start' ? [cut.end, -1] : [cut.start, 1];
    const count = Math.max(1, Math.round((sign * (frame - fixed)) / unit));
    return Math.round(fixed + sign * count * unit);
  }
  if (snap !== 'silence') return frame;
  const edges = grid.silences.flatMap(({ from, to }) => [from, to]);
  const nearest = edges.reduce<number | null>(
    (best, each) => (best === null || Math.abs(each - frame) < Math.abs(best - frame) ? each : best),
    null,
  );
  return nearest !== null && Math.abs(nearest - frame) <= grid.reach ? Math.round(nearest) : frame;
}
