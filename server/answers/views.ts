import type { Artifact, Change, Facts, Finding, LeftOut, RenderReport, Target, WorkingJob } from '@tambur/core';

/** What the API gives to the page: plain data, one interface for each resource. */

export interface SourceView {
  readonly id: string;
  /** Its file's name, as it arrived. */
  readonly name: string;
  readonly sha256: string;
  readonly facts: Facts;
}

/** A source as the shelf shows it. */
export interface ShelfView extends SourceView {
  readonly createdAt: string;
  /** The waveform in small: see storage/waveform.ts. */
  readonly waveform: string;
  /** Jobs with clips of it. */
  readonly usedBy: readonly { readonly jobId: string; readonly title: string; readonly clips: number }[];
}

/** Groups of files that a practitioner tells apart. */
export const SOURCE_KINDS = ['plain', 'lossless', 'lossy', 'video', 'bare'] as const;
export type SourceKind = (typeof SOURCE_KINDS)[number];

/** Which sources a list of the shelf shows. */
export const SHELF_FILTERS = ['all', ...SOURCE_KINDS, 'remarked', 'unused'] as const;
export type ShelfFilter = (typeof SHELF_FILTERS)[number];

/** What the shelf can be sorted by. */
export const SHELF_ORDERS = ['name', 'kind', 'rate', 'channels', 'length', 'size', 'jobs', 'added'] as const;
export type ShelfOrder = (typeof SHELF_ORDERS)[number];

/** Which sources are wanted, in which order. */
export interface ShelfQuery {
  /** Each of its words has to occur in the name, tags, facts or jobs of a source. */
  readonly search: string;
  readonly filter: ShelfFilter;
  readonly order: ShelfOrder;
  readonly isDescending: boolean;
}

/** Sources of the shelf in their order; what they are is asked for when it is to be seen. */
export interface ShelfList {
  /** How many sources there are in all. */
  readonly all: number;
  readonly ids: readonly string[];
}

/** A target sheet, whether it is the user's own, and its jobs. */
export interface SheetView extends Target {
  readonly isOwn: boolean;
  /** Its requirements in words: under '' its own, and those of each variant under the variant's id. */
  readonly words: Readonly<Record<string, readonly string[]>>;
  readonly usedBy: readonly { readonly jobId: string; readonly title: string }[];
}

export type DeliveryState = 'building' | 'done' | 'failed' | 'cancelled';

/** A job as its card shows it. */
export interface JobSummary {
  readonly id: string;
  readonly title: string;
  /** Id of its sheet. */
  readonly sheet: string;
  /** Edition of the sheet; null for the sheet itself. */
  readonly variant: string | null;
  readonly clipCount: number;
  /** Of the first of them. */
  readonly clipNames: readonly string[];
  /** Of the newest delivery. */
  readonly delivery: { readonly id: string; readonly state: DeliveryState; readonly bytes: number } | null;
}

/** How many steps of a job can be undone and redone. */
export interface History {
  readonly undo: number;
  readonly redo: number;
}

/** A step of a job that can be undone, or made again. */
export interface StepView {
  readonly revision: number;
  readonly words: string;
  /** False if it has been undone. */
  readonly isMade: boolean;
}

/** A job as a page works on it. */
export interface JobView {
  readonly id: string;
  /** Counts the job's changes. */
  readonly revision: number;
  readonly history: History;
  readonly job: WorkingJob;
  readonly sources: readonly SourceView[];
}

/** A job that was made of another, for another device. */
export interface CopyView {
  readonly id: string;
  /** Hand settings that make no sense there. */
  readonly left: readonly LeftOut[];
}

/** What has become of a job since a page last looked. */
export interface ChangesView {
  readonly revision: number;
  readonly history: History;
  /** Oldest first; null if they are not known any more: then the job is loaded as a whole. */
  readonly changes: readonly Change[] | null;
  /** All that the clips have now. */
  readonly sources: readonly SourceView[];
}

/** A file of a delivery. */
export interface ArtifactView extends Artifact {
  /** For people: the name of its clip, or what else it is. */
  readonly title: string;
  /** Names of the clips whose sounds are in it, one for each of its parts. */
  readonly clips: readonly string[];
  /** Numbers of the places at which its sounds play. */
  readonly slots: readonly number[];
  /** What the places are called. */
  readonly places: readonly string[];
}

export interface DeliveryView {
  readonly id: string;
  readonly jobId: string;
  readonly jobTitle: string;
  readonly state: DeliveryState;
  /** What went wrong, where `state` is `failed`. */
  readonly error: string | null;
  readonly createdAt: string;
  /** Sounds to build, and how far that is, 0..1. */
  readonly total: number;
  readonly progress: number;
  /** The same of each of them while they are being built; empty then. */
  readonly rows: readonly { readonly title: string; readonly done: number }[];
  readonly artifacts: readonly ArtifactView[];
  /** On the set as a whole. */
  readonly findings: readonly Finding[];
  /** As it was: its variant and values filled in. */
  readonly sheet: Target;
}

/** A clip as a whole that lies on the server: what is said of it, and where its sound is read from. */
export interface WholeView {
  readonly id: string;
  readonly sha256: string;
  /** The first bytes of the file. */
  readonly head: readonly number[];
  readonly facts: Facts;
  readonly report: RenderReport;
  readonly findings: readonly Finding[];
}

/** What came of building a delivery again. */
export interface AgainView {
  /** Files of the delivery. */
  readonly total: number;
  /** Paths of those that have other bytes now, or are not there. */
  readonly different: readonly string[];
  /** Why some could not be built. */
  readonly failures: readonly string[];
  /** The version of core that the delivery was made by. */
  readonly madeBy: string;
}

/** What the server tells every open page. */
export type ServerEvent =
  | {
      readonly type: 'import';
      /** As the page named it when it sent the file. */
      readonly importId: string;
      readonly frames: number;
      readonly expected: number | null;
    }
  /** A whole is being made; the page has named its request. */
  | { readonly type: 'whole'; readonly progressId: string; readonly part: number }
  | { readonly type: 'shelf' }
  | { readonly type: 'job'; readonly jobId: string; readonly revision: number }
  | {
      readonly type: 'build';
      readonly deliveryId: string;
      readonly jobId: string;
      readonly progress: number;
      /** Of each of its files. */
      readonly rows: readonly number[];
    }
  | { readonly type: 'built'; readonly deliveryId: string; readonly jobId: string; readonly state: DeliveryState };
