import type { Artifact, Change, Facts, Finding, Target, WorkingJob } from '@tambur/core';

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
  /** The waveform in small: base64 of signed bytes, pairs of lowest and highest sample, 127 being full scale. */
  readonly waveform: string;
  /** Jobs with clips of it. */
  readonly usedBy: readonly { readonly jobId: string; readonly title: string; readonly clips: number }[];
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

/** A job as a page works on it. */
export interface JobView {
  readonly id: string;
  /** Counts the job's changes. */
  readonly revision: number;
  readonly history: History;
  readonly job: WorkingJob;
  readonly sources: readonly SourceView[];
}

/** What has become of a job since a page last looked. */
export interface ChangesView {
  readonly revision: number;
  readonly history: History;
  /** Oldest first; null where they are not known any more: then the job is loaded as a whole. */
  readonly changes: readonly Change[] | null;
  /** All that the clips have now. */
  readonly sources: readonly SourceView[];
}

/** A file of a delivery. */
export interface ArtifactView extends Artifact {
  /** For people: the name of its clip, or what else it is. */
  readonly title: string;
}

export interface DeliveryView {
  readonly id: string;
  readonly jobId: string;
  readonly jobTitle: string;
  readonly targetName: string;
  readonly state: DeliveryState;
  /** What went wrong, where `state` is `failed`. */
  readonly error: string | null;
  readonly createdAt: string;
  /** Files to build, and how far that is, 0..1. */
  readonly total: number;
  readonly progress: number;
  readonly artifacts: readonly ArtifactView[];
  /** On the set as a whole. */
  readonly findings: readonly Finding[];
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
  | { readonly type: 'shelf' }
  | { readonly type: 'job'; readonly jobId: string; readonly revision: number }
  | { readonly type: 'build'; readonly deliveryId: string; readonly jobId: string; readonly progress: number }
  | { readonly type: 'built'; readonly deliveryId: string; readonly jobId: string; readonly state: DeliveryState };
