import type { DroppedSource, JobStore } from './job-store.ts';

/**
 * Files come in side by side, and become clips in the order in which they were dropped. The first of those that come together is on
 * the bench, unless another clip has been put there meanwhile.
 */
export class DropOrder {
  private readonly store: JobStore;
  /** Of each clip that has come in, the number of its file. */
  private readonly orders = new Map<string, number>();
  private shown: string | null = null;

  constructor(store: JobStore) {
    this.store = store;
  }

  add(dropped: DroppedSource, { isFirst, order }: { readonly isFirst: boolean; readonly order: number }): void {
    if (isFirst) this.orders.clear();
    const { job, selectedId, addClips } = this.store.getState();
    const later = job.clips.find(({ id }) => (this.orders.get(id) ?? order) > order);
    const isAhead = selectedId === this.shown && [...this.orders.values()].every((other) => other > order);
    const [id = ''] = addClips([dropped], { isQuiet: !isFirst && !isAhead, before: later?.id ?? null });
    this.orders.set(id, order);
    if (isFirst || isAhead) this.shown = id;
  }
}
