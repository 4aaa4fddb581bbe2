import type { Facts } from '@tambur/core';
import { createStore } from 'zustand';
import { uploadSource } from '../api/upload.ts';
import type { DroppedSource } from '../bench/job-store.ts';
import { lookAt } from '../bench/preview-client.ts';

/** One file on its way in. */
export interface ImportRow {
  readonly id: string;
  readonly name: string;
  readonly file: File;
  /** Read in the page while the file is on its way; null as long as nothing is known. */
  readonly facts: Facts | null;
  readonly state:
    | { readonly kind: 'waiting' }
    | { readonly kind: 'sending'; readonly sent: number }
    | { readonly kind: 'decoding' }
    | { readonly kind: 'failed'; readonly message: string };
}

interface ImportState {
  readonly rows: readonly ImportRow[];
}

/** True while some file is still coming in; those that failed wait for nobody. */
export const isBusy = ({ rows }: ImportState): boolean => rows.some(({ state }) => state.kind !== 'failed');

/** Files sent at a time: the server decodes in two threads. */
const AT_ONCE = 2;

/**
 * Brings files in, a few at a time, in the order in which they were dropped. A file that fails stays in the list with its
 * reason and stops no other.
 */
export class Imports {
  readonly store = createStore<ImportState>(() => ({ rows: [] }));
  private readonly aborts = new Map<string, AbortController>();
  private readonly onReady: (dropped: DroppedSource) => void;

  constructor(onReady: (dropped: DroppedSource) => void) {
    this.onReady = onReady;
  }

  add(files: readonly File[]): void {
    const rows = files.map(
      (file): ImportRow => ({
        id: crypto.randomUUID(),
        name: file.name,
        file,
        facts: null,
        state: { kind: 'waiting' },
      }),
    );
    this.store.setState(({ rows: before }) => ({ rows: [...before, ...rows] }));
    this.next();
  }

  /** Ends one import and takes its row away. */
  drop(id: string): void {
    this.aborts.get(id)?.abort();
    this.store.setState(({ rows }) => ({ rows: rows.filter((row) => row.id !== id) }));
    this.next();
  }

  retry(id: string): void {
    this.change(id, { kind: 'waiting' });
    this.next();
  }

  dropAll(): void {
    for (const { id } of this.store.getState().rows) this.drop(id);
  }

  private change(id: string, state: ImportRow['state']): void {
    this.patch(id, { state });
  }

  private patch(id: string, change: Partial<ImportRow>): void {
    this.store.setState(({ rows }) => ({ rows: rows.map((row) => (row.id === id ? { ...row, ...change } : row)) }));
  }

  /** Reads the file here while it is being sent: its facts show early, and what cannot be used stops at once. */
  private async look(id: string, file: File, abort: AbortController): Promise<void> {
    const seen = await lookAt(file);
    if (seen && 'facts' in seen) this.patch(id, { facts: seen.facts });
    if (seen && 'refused' in seen && !abort.signal.aborted) {
      abort.abort(new Error(`${file.name}: ${seen.refused}`));
    }
  }

  private next(): void {
    const waiting = this.store.getState().rows.find(({ state }) => state.kind === 'waiting');
    if (!waiting || this.aborts.size >= AT_ONCE) return;
    void this.run(waiting);
    this.next();
  }

  private async run({ id, file }: ImportRow): Promise<void> {
    const abort = new AbortController();
    this.aborts.set(id, abort);
    this.change(id, { kind: 'sending', sent: 0 });
    // If the page cannot look, the server still does, and its word counts.
    this.look(id, file, abort).catch((error: unknown) => console.warn('could not look into', file.name, error));
    try {
      const source = await uploadSource(
        file,
        (sent) => this.change(id, sent < 1 ? { kind: 'sending', sent } : { kind: 'decoding' }),
        abort.signal,
      );
      this.store.setState(({ rows }) => ({ rows: rows.filter((row) => row.id !== id) }));
      this.onReady({ source, fileName: file.name });
    } catch (error) {
      // A row that was dropped is no longer in the list, and changing it does nothing.
      this.change(id, { kind: 'failed', message: error instanceof Error ? error.message : String(error) });
    } finally {
      this.aborts.delete(id);
      this.next();
    }
  }
}
