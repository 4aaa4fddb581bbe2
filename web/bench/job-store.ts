import { automaticSettings, type ClipSettings } from '@tambur/core';
import type { ClipView, JobView, SourceView } from '@tambur/server';
import { type TemporalState, temporal } from 'zundo';
import { createStore, type StoreApi, useStore } from 'zustand';

/** The clip list while the bench is open. Every change goes through here, and every change can be undone. */
export interface JobState {
  readonly clips: readonly ClipView[];
  readonly sources: ReadonlyMap<string, SourceView>;
  /** The clip on the bench; null where there is none. */
  readonly selectedId: string | null;
  select(id: string): void;
  /** One clip for each dropped file, named after it: the source may be known under another name already. */
  addClips(dropped: readonly DroppedSource[]): void;
  /** Takes another source for a clip; where that is another sound, its old cut means nothing. */
  changeSource(id: string, source: SourceView): void;
  removeClip(id: string): void;
  moveClip(id: string, to: number): void;
  changeSettings(id: string, change: Partial<ClipSettings>): void;
  /** Changes of several clips in one step. */
  changeMany(changes: ReadonlyMap<string, Partial<ClipSettings>>): void;
}

export interface DroppedSource {
  readonly source: SourceView;
  readonly fileName: string;
  /** The piece of it that is meant, if not all of it. */
  readonly cut?: ClipSettings['cut'];
}

type Undoable = Pick<JobState, 'clips'>;
export type JobStore = StoreApi<JobState> & { temporal: StoreApi<TemporalState<Undoable>> };

/** "cabin-voice_2.flac" becomes "Cabin voice 2". */
export function nameFromFile(fileName: string): string {
  const words = fileName
    .replace(/\.[A-Za-z0-9]{1,8}$/, '')
    .replace(/[-_]+/g, ' ')
    .trim();
  return words ? words.charAt(0).toUpperCase() + words.slice(1, 120) : 'Clip';
}

const UNDO_STEPS = 200;

export function createJobStore(job: JobView): JobStore {
  return createStore<JobState>()(
    temporal(
      (set) => ({
        clips: job.clips,
        sources: new Map(job.sources.map((source) => [source.id, source])),
        selectedId: job.clips[0]?.id ?? null,
        select: (id) => set({ selectedId: id }),
        addClips: (dropped) =>
          set((state) => {
            const clips = dropped.map(({ source, fileName, cut }) => ({
              id: crypto.randomUUID(),
              sourceId: source.id,
              settings: { ...automaticSettings(nameFromFile(fileName)), ...(cut ? { cut } : {}) },
            }));
            return {
              clips: [...state.clips, ...clips],
              sources: new Map([...state.sources, ...dropped.map(({ source }) => [source.id, source] as const)]),
              selectedId: clips[0]?.id ?? state.selectedId,
            };
          }),
        changeSource: (id, source) =>
          set((state) => ({
            sources: new Map([...state.sources, [source.id, source]]),
            clips: state.clips.map((clip) =>
              clip.id === id
                ? { ...clip, sourceId: source.id, settings: { ...clip.settings, cut: 'automatic' as const } }
                : clip,
            ),
          })),
        removeClip: (id) =>
          set((state) => {
            const index = state.clips.findIndex((clip) => clip.id === id);
            const clips = state.clips.filter((clip) => clip.id !== id);
            const next = clips[Math.min(index, clips.length - 1)]?.id ?? null;
            return { clips, selectedId: state.selectedId === id ? next : state.selectedId };
          }),
        moveClip: (id, to) =>
          set((state) => {
            const clip = state.clips.find((entry) => entry.id === id);
            if (!clip) return state;
            const rest = state.clips.filter((entry) => entry.id !== id);
            return { clips: [...rest.slice(0, to), clip, ...rest.slice(to)] };
          }),
        changeSettings: (id, change) =>
          set((state) => ({
            clips: state.clips.map((clip) =>
              clip.id === id ? { ...clip, settings: { ...clip.settings, ...change } } : clip,
            ),
          })),
        changeMany: (changes) =>
          set((state) => ({
            clips: state.clips.map((clip) => {
              const change = changes.get(clip.id);
              return change ? { ...clip, settings: { ...clip.settings, ...change } } : clip;
            }),
          })),
      }),
      {
        limit: UNDO_STEPS,
        partialize: ({ clips }): Undoable => ({ clips }),
        equality: (past, current) => past.clips === current.clips,
      },
    ),
  );
}

/** The clip on the bench; after an undo the selected one may be gone, and the first takes its place. */
export const selectedClip = ({ clips, selectedId }: JobState): ClipView | undefined =>
  clips.find((clip) => clip.id === selectedId) ?? clips[0];

/** How many steps can be undone and redone. */
export const useUndo = (store: JobStore) => {
  const past = useStore(store.temporal, ({ pastStates }) => pastStates.length);
  const future = useStore(store.temporal, ({ futureStates }) => futureStates.length);
  return { past, future };
};

/** Makes all changes until the function that it gives back is called one step of undo, such as a drag. */
export function beginGesture(store: JobStore): () => void {
  const { pause, resume } = store.temporal.getState();
  const before = store.getState().clips;
  pause();
  return () => {
    const after = store.getState().clips;
    // Recorded as one step from before to after.
    store.setState({ clips: before });
    resume();
    if (after !== before) store.setState({ clips: after });
  };
}
