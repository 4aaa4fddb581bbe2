import type { Element, NumberText } from './elements.ts';
import type { TextOptions } from './options.ts';

/** Text before and after the numbers of an array. */
export interface ArrayContext {
  readonly name: string;
  readonly element: Element;
  /** Numbers in the array. */
  readonly length: number;
  readonly sampleRate: number;
  readonly channels: number;
  readonly frames: number;
  readonly options: TextOptions;
}

/** A language in which a sound can stand as numbers. */
export interface TextForm {
  readonly id: string;
  readonly title: string;
  /** The programming language; the same for forms of which one player plays all. */
  readonly language?: string;
  readonly extensions: readonly string[];
  /** Those that it has a use for. */
  readonly options: readonly (keyof TextOptions)[];
  /** What begins and ends a comment in one line. */
  readonly comment: readonly [string, string];
  /** Lines between the comment and the numbers. */
  before(context: ArrayContext): readonly string[];
  /** Begins and ends a line of such numbers. */
  line(element: Element): { readonly prefix: string; readonly end: string };
  /** Ends the last line of numbers; then the lines after them. */
  readonly lastEnd: string;
  after(context: ArrayContext): readonly string[];
  /** Finds where the numbers begin: after the match. */
  readonly opening: RegExp;
  /** Follows the numbers. */
  readonly closing: string;
  /** What began the comment and followed the numbers in files of an earlier version, which are still read. */
  readonly older?: { readonly comment: string; readonly closing: string };
  /** True if a file may have this name, without its extension, beside others of its language; left out if any may. */
  takesStem?(stem: string): boolean;
  /**
   * Declares an array that another file defines, in a language whose builds compile each file on its own; left out where files
   * are included.
   */
  declare?(name: string, element: Element, elementType: string): string;
  /** Where else the count of numbers and the rate stand: a device's program believes those. */
  readonly states: { readonly length?: RegExp; readonly sampleRate?: RegExp };
}

/** As much of the file as holds everything before the numbers. */
export const HEAD_BYTES = 4096;

/** True if a text begins with the comment of a form, as it is written now or was before. */
export const beginsAs = ({ comment, older }: TextForm, text: string): boolean =>
  text.startsWith(comment[0]) || (older !== undefined && text.startsWith(older.comment));

/** The bytes that may follow the numbers. */
export const closingOf = ({ closing, older }: TextForm): NumberText['closing'] => [
  closing.charCodeAt(0),
  (older?.closing ?? closing).charCodeAt(0),
];
