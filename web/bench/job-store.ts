import {
  applyChange,
  type Change,
  type ClipSettings,
  newClip,
  type RankedClip,
  rankAt,
  ranksAfter,
  removalOf,
  sourceOf,
  type Wish,
  type WorkingJob,
  withSettings,
} from '@tambur/core';
import type { History, JobView, SourceView } from '@tambur/server';
import { createStore, type StoreApi } from 'zustand';

/** The job while the bench is open. Every change of it goes through here, as what it puts where. */
export interface JobState {
  /** As it is here: what the server has, and what is on its way there. */
  readonly job: WorkingJob;
  readonly sources: ReadonlyMap<string, SourceView>;
  /** What the server said last of steps that can be undone and redone. */
  readonly history: History;
  /** Changes that the server does not have yet, oldest first. */
  readonly pending: readonly Change[];
  /** During a gesture, such as a drag: how many changes were pending before it. Nothing is sent until it ends. */
  readonly held: number | null;
  /** The clip on the bench; null where there is none. */
  readonly selectedId: string | null;
  select(id: string): void;
  rename(title: string): void;
  setVariant(variant: string | null): void;
  /** One clip for each dropped file, named after it: the source may be known under another name already. */
  /** Adds clips behind those that are there; the first of them is selected, unless `isQuiet`. */
  addClips(dropped: readonly DroppedSource[], isQuiet?: boolean): void;
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
  readonly cut?: Wish<'cut'>;
}

export type JobStore = StoreApi<JobState>;

/** "cabin-voice_2.flac" becomes "Cabin voice 2". */
export function nameFromFile(fileName: string): string {
  const words = fileName
    .replace(/\.[A-Za-z0-9]{1,8}$/, '')
    .replace(/[-_]+/g, ' ')
    .trim();
  return words ? words.charAt(0).toUpperCase() + words.slice(1, 120) : 'Clip';
}

const placesOf = (change: Change): string => Object.keys(change).sort().join(' ');

/** Changes with one more. Within a gesture the last one at the same places counts, so that it is one step. */
function withChange({ pending, held }: Pick<JobState, 'pending' | 'held'>, change: Change): readonly Change[] {
  const last = pending.at(-1);
  const isOfGesture = held !== null && pending.length > held && last && placesOf(last) === placesOf(change);
  return isOfGesture ? [...pending.slice(0, -1), change] : [...pending, change];
}

const sourceMap = (sources: readonly SourceView[]) => new Map(sources.map((source) => [source.id, source]));

export function createJobStore({ job, sources, history }: JobView): JobStore {
  return createStore<JobState>()((set, get) => {
    const make = (change: Change, more: Partial<JobState> = {}) => {
      if (Object.keys(change).length === 0) return;
      set((state) => ({ ...more, job: applyChange(state.job, change), pending: withChange(state, change) }));
    };
    /** Puts other clips in the place of those of the same ids. */
    const put = (clips: readonly RankedClip[], more?: Partial<JobState>) =>
      make(Object.fromEntries(clips.map((clip) => [`clips/${clip.id}`, clip])), more);
    const clipOf = (id: string) => get().job.clips.find((clip) => clip.id === id);
    const changed = (id: string, change: Partial<ClipSettings>): RankedClip[] => {
      const clip = clipOf(id);
      return clip ? [{ ...withSettings(clip, change), rank: clip.rank }] : [];
    };
    return {
      job,
      sources: sourceMap(sources),
      history,
      pending: [],
      held: null,
      selectedId: job.clips[0]?.id ?? null,
      select: (id) => set({ selectedId: id }),
      rename: (title) => make({ title }),
      setVariant: (variant) => make({ variant }),
      addClips(dropped, isQuiet = false) {
        const ranks = ranksAfter(get().job.clips, dropped.length);
        const clips = dropped.map(({ source, fileName, cut }, i) => ({
          ...newClip(crypto.randomUUID(), nameFromFile(fileName), source.id, cut),
          rank: ranks[i] ?? '',
        }));
        put(clips, {
          sources: new Map([...get().sources, ...sourceMap(dropped.map(({ source }) => source))]),
          selectedId: (!isQuiet && clips[0]?.id) || get().selectedId,
        });
      },
      changeSource(id, source) {
        const clip = clipOf(id);
        if (!clip) return;
        const piece = { source: source.id, gapMs: 0 };
        put([{ ...clip, pieces: [piece] }], { sources: new Map([...get().sources, [source.id, source]]) });
      },
      removeClip(id) {
        const { job, selectedId } = get();
        const index = job.clips.findIndex((clip) => clip.id === id);
        if (index < 0) return;
        const rest = job.clips.filter((clip) => clip.id !== id);
        const next = rest[Math.min(index, rest.length - 1)]?.id ?? null;
        make(removalOf(job, id), { selectedId: selectedId === id ? next : selectedId });
      },
      moveClip(id, to) {
        const { clips } = get().job;
        const clip = clipOf(id);
        if (!clip || clips[to]?.id === id) return;
        const others = clips.filter((other) => other.id !== id);
        put([{ ...clip, rank: rankAt(others, to) }]);
      },
      changeSettings: (id, change) => put(changed(id, change)),
      changeMany: (changes) => put([...changes].flatMap(([id, change]) => changed(id, change))),
    };
  });
}

/** The clip on the bench; after an undo the selected one may be gone, and the first takes its place. */
export const selectedClip = ({ job: { clips }, selectedId }: JobState): RankedClip | undefined =>
  clips.find((clip) => clip.id === selectedId) ?? clips[0];

/** Makes all changes until the function that it gives back is called one step of undo, such as a drag. */
export function beginGesture(store: JobStore): () => void {
  store.setState(({ pending }) => ({ held: pending.length }));
  return () => store.setState({ held: null });
}

/** The source of a clip, where it is known. */
export const sourceIn = ({ sources }: Pick<JobState, 'sources'>, clip: RankedClip): SourceView | undefined =>
  sources.get(sourceOf(clip));
