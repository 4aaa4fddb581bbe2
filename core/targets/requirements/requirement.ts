import * as v from 'valibot';
import type { Tag } from '../../containers/index.ts';
import type { ByteLayout } from '../../encodings/index.ts';
import type { Facts } from '../../facts/index.ts';
import { idSchema } from '../../forms/index.ts';

/** Entries that every requirement has. */
export const common = {
  /** Its name within the sheet: it stays when the requirement is changed, and no other part of the sheet has it. */
  key: idSchema,
  /** True if a file that does not meet it still plays: the finding then advises instead of breaks. */
  advised: v.optional(v.boolean()),
};

/** A file checked against requirements: its facts and the name under which it is delivered. */
export interface Subject {
  readonly facts: Facts;
  /** Without folders. */
  readonly fileName: string;
  /** Where on the card it is, "" for the top; undefined if nobody knows. */
  readonly folder?: string;
  /** Tags of the source that it was made of; undefined if nobody knows. */
  readonly sourceTags?: readonly Tag[];
  /** True if the sheet allows a lower rate than it has. */
  readonly canBeSlower?: boolean;
  /** True if the sheet wants whole files in arrays. */
  readonly takesArrays?: boolean;
}

/** One file of a set. */
export interface SetMember {
  readonly bytes: number;
  /** What of it is encoded samples; null if these cannot be told apart. */
  readonly soundBytes: number | null;
  readonly frames: number;
  readonly sampleRate: number;
}

/** All files of a job together. */
export interface SetSubject {
  readonly members: readonly SetMember[];
  /** Names of whatever else lies with them; undefined if nobody knows. */
  readonly others?: readonly string[];
  /** True if the sheet allows several rates. */
  readonly canBeSlower?: boolean;
}

/** What holding one requirement against a file, or a set of files, gave. */
export interface Answer {
  /** Null if the bytes do not tell. */
  readonly meets: boolean | null;
  /** What is there, in words. */
  readonly found: string;
  /** What to do where it does not meet. */
  readonly mend?: string;
}

/** What requirements ask of the stations. */
export interface Demands {
  containers: readonly string[];
  /** Forms of source code in whose array the whole file stands. */
  arrays: readonly string[];
  encodings: readonly string[];
  /** Hz, or exact fractions such as "16000000/1020". */
  sampleRates: readonly (number | string)[];
  /** Hz: any rate in between will do. */
  rateRange: { readonly least: number; readonly most: number };
  bitDepths: readonly number[];
  channelCounts: readonly number[];
  frames: { readonly multipleOf: number; readonly least: number; readonly most: number | null };
  seconds: { readonly least: number; readonly most: number | null; readonly mostOfStereo: number | null };
  bars: { readonly anyOf: readonly number[]; readonly beats: number; readonly tempo: number };
  /** Most bytes of the whole file. */
  fileBytes: number;
  /** Least bytes of the whole file, and what their number divides by. */
  fileUnits: { readonly least: number; readonly multipleOf: number };
  /** Most bytes of encoded samples of all files together: no single one has more room. */
  setBytes: number;
  /** Most seconds of all files together. */
  setSeconds: number;
  name: {
    readonly most: number | null;
    readonly mostWithExtension: number | null;
    readonly alphanumeric: boolean;
    /** Names with their extensions, by places; null: any. */
    readonly anyOf: readonly string[] | null;
    readonly notDigitsOnly: boolean;
    readonly letterCase: 'lower' | 'upper';
    /** Of a slot's number; null: the clip's own name. */
    readonly digits: number | null;
    readonly reserved: readonly string[];
  };
  /** dBFS. */
  peakDb: number;
  /** dBTP. */
  truePeakDb: number;
  /** What the peak does not exceed. */
  peakMost: { readonly db: number; readonly isTrue: boolean };
  /** LUFS. */
  loudness: number;
  removeDc: boolean;
  /** Seconds of silence at the start and the end, at least and at most; what is there already counts. */
  silence: {
    readonly front: number;
    readonly back: number;
    readonly mostFront: number | null;
    readonly mostBack: number | null;
  };
  bitRate: {
    readonly anyOf: readonly number[] | null;
    readonly least: number;
    readonly most: number;
    readonly constant: boolean;
  };
  stereoMode: 'joint' | 'stereo';
  tags: 'forbidden' | 'kept';
  byteLayout: ByteLayout;
  folder: string;
  /** Without the dot. */
  extensions: readonly string[];
}

interface KindBase<R extends { readonly kind: string }> {
  readonly kind: R['kind'];
  /** What forms ask is said in it. */
  readonly schema: v.GenericSchema<R>;
  /** True if a new one starts as advised. */
  readonly isUsuallyAdvised?: true;
  /** True if stations do what is only advised, as it costs nothing; otherwise that is said, not done. */
  readonly isDoneWhenAdvised?: true;
  /** What the requirement is about: "sample rate". */
  readonly title: string;
  /** What it wants, in words: "8 000 Hz". */
  wanted(requirement: R): string;
  /**
   * What meets both of two requirements, as a change of the first; null if nothing can. Left out if no player implies
   * such a requirement.
   */
  narrow?(a: R, b: R): R | null;
}

/** A kind of requirement on single files. */
export interface FileRequirementKind<R extends { readonly kind: string }> extends KindBase<R> {
  readonly scope: 'file';
  /** The station of the line at which a file that does not meet it is mended; left out if none does. */
  readonly station?: string;
  /** True if only the whole file answers it: a piece of the sound is shorter, and may be quieter. */
  readonly isOfWhole?: true;
  /** How stations settle themselves by it. */
  demands(requirement: R): Partial<Demands>;
  check(requirement: R, subject: Subject): Answer;
}

/** A kind of requirement on all files of a job together. */
export interface SetRequirementKind<R extends { readonly kind: string }> extends KindBase<R> {
  readonly scope: 'set';
  /** What it means for each file alone. */
  demands?(requirement: R): Partial<Demands>;
  check(requirement: R, set: SetSubject): Answer;
}

/** An answer for what headerless bytes leave open. */
export const notStated = (readAs: string): Answer => ({ meets: null, found: `not stated; read as ${readAs}` });
