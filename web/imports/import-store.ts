import type { SourceView } from '@tambur/server';
import { createStore } from 'zustand';
import { uploadSource } from '../api/upload.ts';

/** One file on its way in. */
export interface ImportRow {
  readonly id: string;
  readonly name: string;
  readonly file: File;
  readonly state:
    | { readonly kind: 'waiting' }
    | { readonly kind: 'sending'; readonly sent: number }
    | { readonly kind: 'decoding' }
    | { readonly kind: 'failed'; readonly message: string };
}

interface ImportState {
  readonly rows: readonly ImportRow[];
}

/** Files sent at a time: the server decodes in two threads. */
const AT_ONCE = 2;

/**
 * Brings files in, a few at a time, in the order in which they were dropped. A file that fails stays in the list with its
 * reason and stops no other.
 */
export class Imports {
  readonly store = createStore<ImportState>(() => ({ rows: [] }));
  private readonly aborts = new Map<string, AbortController>();
  private readonly onReady: (source: SourceView) => void;

  constructor(onReady: (source: SourceView) => void) {
    this.onReady = onReady;
  }

  add(files: readonly File[]): void {
    const rows = files.map(
      (file): ImportRow => ({ id: crypto.randomUUID(), name: file.name, file, state: { kind: 'waiting' } }),
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
    this.store.setState(({ rows }) => ({ rows: rows.map((row) => (row.id === id ? { ...row, state } : row)) }));
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
    try {
      const source = await uploadSource(
        file,
        (sent) => this.change(id, sent < 1 ? { kind: 'sending', sent } : { kind: 'decoding' }),
        abort.signal,
      );
      this.store.setState(({ rows }) => ({ rows: rows.filter((row) => row.id !== id) }));
      this.onReady(source);
    } catch (error) {
      if (!abort.signal.aborted) {
        this.change(id, { kind: 'failed', message: error instanceof Error ? error.message : String(error) });
      }
    } finally {
      this.aborts.delete(id);
      this.next();
    }
  }
}
