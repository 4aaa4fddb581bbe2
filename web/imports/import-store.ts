import { type Facts, InputError, messageOf, type Reading } from '@tambur/core';
import { createStore } from 'zustand';
import { ApiError } from '../api/errors.ts';
import { uploadSource } from '../api/upload.ts';
import type { DroppedSource } from '../job/job-store.ts';
import { inspectHere } from '../sound/inspect-here.ts';

/** One file on its way in. */
export interface ImportRow {
  readonly id: string;
  readonly name: string;
  readonly file: File;
  /** Counts the files as they were dropped. */
  readonly order: number;
  /** Read in the page while the file is on its way; null as long as nothing is known. */
  readonly facts: Facts | null;
  readonly state:
    | { readonly kind: 'waiting' }
    | { readonly kind: 'sending'; readonly sent: number }
    | { readonly kind: 'decoding'; readonly decoded: number | null }
    | { readonly kind: 'failed'; readonly message: string; readonly code: string | null };
  /** What headerless bytes are, if the user said so. */
  readonly reading?: Reading;
}

interface ImportState {
  readonly rows: readonly ImportRow[];
  /** Files that are in, since the list was last empty or cleared. */
  readonly arrived: number;
}

/** True while some file is still coming in; those that failed wait for nobody. */
export const isBusy = ({ rows }: ImportState): boolean => rows.some(({ state }) => state.kind !== 'failed');

/** Told of each file that is in, whether it is the first of those that came together, and its number among all that were dropped. */
type OnReady = (dropped: DroppedSource, place: { readonly isFirst: boolean; readonly order: number }) => void;

/** Files sent at a time: the server decodes in two threads. */
const AT_ONCE = 2;

/**
 * Brings files in, a few at a time, in the order in which they were dropped. A file that fails stays in the list with its
 * reason and stops no other.
 */
export class Imports {
  readonly store = createStore<ImportState>(() => ({ rows: [], arrived: 0 }));
  private readonly aborts = new Map<string, AbortController>();
  private readonly onReady: OnReady;
  private count = 0;

  constructor(onReady: OnReady) {
    this.onReady = onReady;
  }

  add(files: readonly File[]): void {
    const rows = files.map(
      (file): ImportRow => ({
        id: crypto.randomUUID(),
        name: file.name,
        file,
        order: this.count++,
        facts: null,
        state: { kind: 'waiting' },
      }),
    );
    this.store.setState((before) => ({
      rows: [...before.rows, ...rows],
      arrived: isBusy(before) ? before.arrived : 0,
    }));
    this.next();
  }

  /** Ends one import and takes its row away. */
  drop(id: string): void {
    this.aborts.get(id)?.abort();
    this.store.setState(({ rows }) => ({ rows: rows.filter((row) => row.id !== id) }));
    this.next();
  }

  /** Does it once more; with what its bytes are, where they do not say it themselves. */
  retry(id: string, reading?: Reading): void {
    this.patch(id, { state: { kind: 'waiting' }, ...(reading ? { reading } : {}) });
    this.next();
  }

  dropAll(): void {
    const { rows } = this.store.getState();
    this.store.setState({ rows: [], arrived: 0 });
    for (const { id } of rows) this.aborts.get(id)?.abort();
  }

  /** Takes everything away that is no longer under way. */
  clear(): void {
    this.store.setState(({ rows }) => ({ rows: rows.filter(({ state }) => state.kind !== 'failed'), arrived: 0 }));
  }

  private change(id: string, state: ImportRow['state']): void {
    this.patch(id, { state });
  }

  private patch(id: string, change: Partial<ImportRow>): void {
    this.store.setState(({ rows }) => ({ rows: rows.map((row) => (row.id === id ? { ...row, ...change } : row)) }));
  }

  /** Reads the file here while it is being sent: its facts show early, and what cannot be used stops at once. */
  private async look(id: string, file: File, abort: AbortController): Promise<void> {
    const seen = await inspectHere(file);
    if (seen && 'facts' in seen) this.patch(id, { facts: seen.facts });
    if (seen && 'refused' in seen && !abort.signal.aborted) {
      abort.abort(new ApiError(seen.code, `${file.name}: ${seen.refused}`, 422));
    }
  }

  private next(): void {
    const waiting = this.store.getState().rows.find(({ state }) => state.kind === 'waiting');
    if (!waiting || this.aborts.size >= AT_ONCE) return;
    void this.run(waiting);
    this.next();
  }

  private async run({ id, file, order, reading }: ImportRow): Promise<void> {
    const abort = new AbortController();
    this.aborts.set(id, abort);
    this.change(id, { kind: 'sending', sent: 0 });
    // If the page cannot look, the server still does, and its word counts.
    if (!reading)
      this.look(id, file, abort).catch((error: unknown) => console.warn('could not look into', file.name, error));
    try {
      const source = await uploadSource(file, {
        reading,
        signal: abort.signal,
        onProgress: ({ sent, decoded }) =>
          this.change(id, sent < 1 ? { kind: 'sending', sent } : { kind: 'decoding', decoded }),
      });
      const { arrived } = this.store.getState();
      this.store.setState(({ rows }) => ({ rows: rows.filter((row) => row.id !== id), arrived: arrived + 1 }));
      this.onReady({ source, fileName: file.name }, { isFirst: arrived === 0, order });
    } catch (error) {
      // A row that was dropped is no longer in the list, and changing it does nothing.
      const code = error instanceof ApiError || error instanceof InputError ? error.code : null;
      this.change(id, { kind: 'failed', message: messageOf(error), code });
    } finally {
      this.aborts.delete(id);
      this.next();
    }
  }
}
