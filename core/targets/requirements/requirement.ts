import * as v from 'valibot';
import type { Facts } from '../../facts/index.ts';

/** Entries that every requirement has. */
export const common = {
  /** True if a file that does not meet it still plays: the finding then advises instead of breaks. */
  advised: v.optional(v.boolean()),
};

/** A file held against requirements: its facts and the name under which it is delivered. */
export interface Subject {
  readonly facts: Facts;
  readonly fileName: string;
}

/** One file of a set: its size, and what of it is encoded samples; null where these cannot be told apart. */
export interface SetMember {
  readonly bytes: number;
  readonly soundBytes: number | null;
}

/** What holding one requirement against a file, or a set of files, gave. */
export interface Answer {
  /** Null where the bytes do not tell. */
  readonly meets: boolean | null;
  /** What is there, in words. */
  readonly found: string;
  /** What to do where it does not meet. */
  readonly mend?: string;
}

/** What requirements ask of the stations. */
export interface Demands {
  containers: readonly string[];
  encodings: readonly string[];
  sampleRates: readonly number[];
  channelCounts: readonly number[];
  frames: { readonly multipleOf: number; readonly least: number; readonly most: number | null };
  seconds: { readonly least: number; readonly most: number | null };
  bars: { readonly anyOf: readonly number[]; readonly beats: number; readonly tempo: number };
  /** Most bytes of the whole file. */
  fileBytes: number;
  name: {
    readonly most: number | null;
    readonly mostWithExtension: number | null;
    readonly notDigitsOnly: boolean;
  };
  /** dBFS. */
  peakDb: number;
  /** Without the dot. */
  extensions: readonly string[];
}

interface KindBase<R extends { readonly kind: string }> {
  readonly kind: R['kind'];
  readonly schema: v.GenericSchema<R>;
  /** What the requirement is about: "sample rate". */
  readonly title: string;
  /** What it wants, in words: "8 000 Hz". */
  wanted(requirement: R): string;
}

/** A kind of requirement on single files. */
export interface FileRequirementKind<R extends { readonly kind: string }> extends KindBase<R> {
  readonly scope: 'file';
  /** How stations settle themselves by it. */
  demands(requirement: R): Partial<Demands>;
  check(requirement: R, subject: Subject): Answer;
}

/** A kind of requirement on all files of a job together. */
export interface SetRequirementKind<R extends { readonly kind: string }> extends KindBase<R> {
  readonly scope: 'set';
  check(requirement: R, members: readonly SetMember[]): Answer;
}

/** An answer for what headerless bytes leave open. */
export const notStated = (readAs: string): Answer => ({ meets: null, found: `not stated; read as ${readAs}` });
