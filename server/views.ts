import type { ClipSettings, Facts, Finding, RenderReport, Target } from '@tambur/core';

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

/** A voice that speaks prompts. */
export interface VoiceView {
  readonly id: string;
  readonly title: string;
}

/** A target sheet, whether it is the user's own, and its jobs. */
export interface SheetView extends Target {
  readonly isOwn: boolean;
  /** Its requirements in words: under '' its own, and those of each variant under the variant's id. */
  readonly words: Readonly<Record<string, readonly string[]>>;
  readonly usedBy: readonly { readonly jobId: string; readonly title: string }[];
}

export interface ClipView {
  readonly id: string;
  readonly sourceId: string;
  readonly settings: ClipSettings;
}

export type DeliveryState = 'building' | 'done' | 'failed' | 'cancelled';

/** A job as its card shows it. */
export interface JobSummary {
  readonly id: string;
  readonly title: string;
  readonly targetId: string;
  /** Edition of the sheet; null for the sheet itself. */
  readonly variantId: string | null;
  readonly clipCount: number;
  readonly clipNames: readonly string[];
  /** Of the newest delivery. */
  readonly delivery: { readonly id: string; readonly state: DeliveryState; readonly bytes: number } | null;
}

export interface JobView {
  readonly id: string;
  readonly title: string;
  readonly targetId: string;
  /** Edition of the sheet; null for the sheet itself. */
  readonly variantId: string | null;
  /** Counts changes of the clip list; a change that was made on another revision is refused. */
  readonly revision: number;
  readonly clips: readonly ClipView[];
  readonly sources: readonly SourceView[];
}

export interface DeliveredFileView {
  readonly name: string;
  readonly displayName: string;
  readonly bytes: number;
  readonly sha256: string;
  /** Null for list files and the like, which hold no sound. */
  readonly facts: Facts | null;
  readonly report: RenderReport | null;
  readonly findings: readonly Finding[];
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
  readonly files: readonly DeliveredFileView[];
  readonly setFindings: readonly Finding[];
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
  | { readonly type: 'build'; readonly deliveryId: string; readonly jobId: string; readonly progress: number }
  | { readonly type: 'built'; readonly deliveryId: string; readonly jobId: string; readonly state: DeliveryState };
