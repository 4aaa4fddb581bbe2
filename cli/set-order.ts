import type { OpenOptions } from '@tambur/codecs';
import type { JobDoc, OwnLists, Target } from '@tambur/core';
import type { ClipMade } from './clip.ts';
import type { Moment } from './numbers.ts';
import type { Format } from './output.ts';

/** A source of a set: its file, and how that is read. */
export interface SetSource {
  readonly path: string;
  readonly options: OpenOptions;
}

/** What is to be made, all of it known. */
export interface SetOrder {
  readonly job: JobDoc;
  /** In the job's variant, its blanks filled but for those of clips. */
  readonly sheet: Target;
  /** By the names that the clips have for them. */
  readonly sources: ReadonlyMap<string, SetSource>;
  /** Lists that the device has now, by the keys of the sheet's. */
  readonly ownLists?: OwnLists;
  readonly start?: Moment | undefined;
  readonly end?: Moment | undefined;
}

/** How it is made, and what goes with it. */
export interface SetOptions extends Format {
  readonly out: string;
  /** Files made at the same time; one after the other where it is left out. */
  readonly jobs?: number;
  /** Texts that go with the set, by their ids. */
  readonly notes?: readonly string[];
  /** Languages of players for arrays in source code. */
  readonly player?: readonly string[];
  /** Where a rule for make and ninja goes: what was written, and of what. */
  readonly depfile?: string;
  /** List files that the device has now. */
  readonly list?: readonly string[];
  /** What the set depends on beside its sources; where it is said, all of it is. */
  readonly dependsOn?: readonly string[];
}

/** A file that was made. */
export type FileOfClip = ClipMade & {
  readonly clip: JobDoc['clips'][number];
  readonly slots: readonly number[];
  readonly source: string;
};
