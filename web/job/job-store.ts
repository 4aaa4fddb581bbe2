import {
  applyChange,
  type Change,
  type ClipSettings,
  changeToEdition,
  newClip,
  type PlaceChange,
  type RankedClip,
  ranksAt,
  removalOf,
  type StationId,
  sourceOf,
  type Target,
  type Value,
  type Wish,
  type WorkingJob,
  withEntries,
  withoutWish,
  withSettings,
} from '@tambur/core';
import type { History, JobView, SourceView } from '@tambur/server';
import { createStore, type StoreApi } from 'zustand';
import { clicked, nothingSelected, pruned, type Selection } from '../ui/selection.ts';
import { copiesOf, movedBeside, nameFromFile, partsOf } from './clip-edits.ts';

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
  /** The clip on the bench; null if there is none. */
  readonly selectedId: string | null;
  /** The clips that are meant together: the one on the bench, and those picked with it. */
  readonly selection: Selection;
  /** Puts a clip on the bench; with Ctrl or Shift it joins those that are picked. */
  select(id: string, held?: { readonly shift: boolean; readonly ctrl: boolean }): void;
  selectAll(): void;
  rename(title: string): void;
  /** Takes another variant, which asks for no such values. */
  setVariant(variant: string | null, without?: readonly string[]): void;
  /** Goes over to another edition of its sheet. */
  takeEdition(sheet: Target): void;
  /** Stays with the edition that it has, and is not asked about that one again. */
  declineEdition(sheet: Target): void;
  /**
   * One clip for each dropped file, named after it: the source may be known under another name already. They come behind
   * those that are there, or before one of them, and the first of them is selected, unless `isQuiet`. Gives their ids.
   */
  addClips(
    dropped: readonly DroppedSource[],
    options?: { readonly isQuiet?: boolean; readonly before?: string | null },
  ): readonly string[];
  /** Takes another source for a clip; where that is another sound, its old cut means nothing. */
  changeSource(id: string, source: SourceView): void;
  removeClips(ids: readonly string[]): void;
  /** Puts a clip, and with one that is picked all that are, before or behind another clip. */
  moveClip(id: string, beside: string, isBehind: boolean): void;
  /** Moves the clips that are picked by one place; they stand one behind the other then. */
  movePicked(by: 1 | -1): void;
  /** A copy behind each of the clips; the copies are selected. */
  duplicateClips(ids: readonly string[]): void;
  /** Two clips of one: up to a frame of the source, and from it on. */
  splitClip(id: string, frame: number): void;
  /** Gives clips the wishes of another: all but its name, its cut and what belongs to it alone. */
  copyWishes(from: string, to: readonly string[]): void;
  /** Makes a clip's wish at a station that of the job, for every clip without one of its own. */
  wishForAll(id: string, station: WishedStation): void;
  /** The job wishes nothing at a station any more. */
  forgetForAll(station: WishedStation): void;
  /** A clip goes by its job again at a station. */
  likeOthers(id: string, station: WishedStation): void;
  /** Fills a blank of the sheet for all clips; null: as the sheet has it. */
  setValue(blank: string, value: Value | null): void;
  /** Fills one for a clip. */
  setClipValue(id: string, blank: string, value: Value | null): void;
  /** Puts clips at places of the device, in one step. */
  placeClips(change: PlaceChange): void;
  /** Starts a list of the sheet from one that the device has, by its SHA-256; null: made again. */
  setOwnList(list: string, sha256: string | null): void;
  changeSettings(id: string, change: Partial<ClipSettings>): void;
  /** Changes of several clips in one step. */
  changeMany(changes: ReadonlyMap<string, Partial<ClipSettings>>): void;
}

/** A station at which all clips may have the same wish: a cut is of one sound only. */
export type WishedStation = Exclude<StationId, 'cut'>;

export interface DroppedSource {
  readonly source: SourceView;
  readonly fileName: string;
  /** The piece of it that is meant, if not all of it. */
  readonly cut?: Wish<'cut'>;
}

export type JobStore = StoreApi<JobState>;

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
      return clip ? [{ ...withSettings(clip, change, get().job.wishes), rank: clip.rank }] : [];
    };
    const only = (id: string | null): Pick<JobState, 'selectedId' | 'selection'> => ({
      selectedId: id,
      selection: id === null ? nothingSelected : { ids: new Set([id]), anchor: id },
    });
    /** Puts new clips behind those that they are of, and selects them. */
    const putNew = (clips: readonly RankedClip[], fresh: readonly RankedClip[]) => {
      const [first] = fresh;
      if (!first) return;
      const ids = new Set(fresh.map(({ id }) => id));
      put(clips, { selectedId: first.id, selection: { ids, anchor: first.id } });
    };
    return {
      job,
      sources: sourceMap(sources),
      history,
      pending: [],
      held: null,
      ...only(job.clips[0]?.id ?? null),
      select(id, held = { shift: false, ctrl: false }) {
        const { job, selection } = get();
        const order = job.clips.map((clip) => clip.id);
        const next = clicked(pruned(selection, order), order, id, held);
        // What is on the bench is always one of those that are picked.
        const shown = next.ids.has(id) ? id : (order.find((other) => next.ids.has(other)) ?? id);
        set({ selectedId: shown, selection: next.ids.size > 0 ? next : only(id).selection });
      },
      selectAll: () =>
        set(({ job, selection }) => ({ selection: { ...selection, ids: new Set(job.clips.map(({ id }) => id)) } })),
      rename: (title) => make({ title }),
      setVariant: (variant, without = []) =>
        make({ variant, ...Object.fromEntries(without.map((blank) => [`values/${blank}`, null])) }),
      takeEdition: (sheet) => make(changeToEdition(get().job, sheet)),
      declineEdition: ({ edition }) => make({ offered: edition }),
      addClips(dropped, { isQuiet = false, before = null } = {}) {
        const known = get().job.clips;
        const place = known.findIndex(({ id }) => id === before);
        const ranks = ranksAt(known, place < 0 ? known.length : place, dropped.length);
        const clips = dropped.map(({ source, fileName, cut }, i) => ({
          ...newClip(crypto.randomUUID(), nameFromFile(fileName), source.id, cut),
          rank: ranks[i] ?? '',
        }));
        put(clips, {
          sources: new Map([...get().sources, ...sourceMap(dropped.map(({ source }) => source))]),
          ...(!isQuiet && clips[0] ? only(clips[0].id) : {}),
        });
        return clips.map(({ id }) => id);
      },
      changeSource(id, source) {
        const clip = clipOf(id);
        if (!clip) return;
        const piece = { source: source.id, gapMs: 0 };
        put([{ ...clip, pieces: [piece] }], { sources: new Map([...get().sources, [source.id, source]]) });
      },
      removeClips(ids) {
        const { job, selectedId } = get();
        // Another window may have removed some of them already.
        const gone = new Set(ids.filter((id) => clipOf(id)));
        const index = job.clips.findIndex(({ id }) => id === selectedId);
        const left = job.clips.filter(({ id }) => !gone.has(id));
        // What follows takes its place, and at the end what is before.
        const next = job.clips.slice(index).find(({ id }) => !gone.has(id)) ?? left.at(-1);
        const change = Object.assign({}, ...[...gone].map((id) => removalOf(job, id))) as Change;
        make(change, only(next?.id ?? null));
      },
      moveClip(id, beside, isBehind) {
        const { selection, job } = get();
        const moving = selection.ids.has(id) ? selection.ids : new Set([id]);
        put(movedBeside(job.clips, moving, beside, isBehind));
      },
      movePicked(by) {
        const { selection, job } = get();
        const isPicked = ({ id }: RankedClip) => selection.ids.has(id);
        const edge = by > 0 ? job.clips.findLastIndex(isPicked) : job.clips.findIndex(isPicked);
        const next = job.clips[edge + by];
        if (next) put(movedBeside(job.clips, selection.ids, next.id, by > 0));
      },
      duplicateClips(ids) {
        const copies = copiesOf(get().job.clips, ids);
        putNew(copies, copies);
      },
      splitClip(id, frame) {
        const clip = clipOf(id);
        const frames = clip && sourceIn(get(), clip)?.facts.frames;
        if (!clip || frames === undefined) return;
        const parts = partsOf(get().job.clips, clip, frame, frames);
        putNew(parts, parts.slice(1));
      },
      copyWishes(from, to) {
        const clip = clipOf(from);
        if (clip) put(to.flatMap((id) => clipOf(id) ?? []).map((other) => ({ ...other, wishes: clip.wishes })));
      },
      wishForAll(id, station) {
        const clip = clipOf(id);
        const wish = clip?.wishes[station];
        if (clip && wish) make({ [`wishes/${station}`]: wish, [`clips/${id}`]: withoutWish(clip, station) });
      },
      forgetForAll: (station) => make({ [`wishes/${station}`]: null }),
      likeOthers(id, station) {
        const clip = clipOf(id);
        if (clip) put([withoutWish(clip, station)]);
      },
      setValue: (blank, value) => make({ [`values/${blank}`]: value }),
      setClipValue(id, blank, value) {
        const clip = clipOf(id);
        if (clip) put([{ ...clip, values: withEntries(clip.values, { [blank]: value }) }]);
      },
      placeClips: (change) => make(change),
      setOwnList: (list, sha256) => make({ [`ownLists/${list}`]: sha256 }),
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
