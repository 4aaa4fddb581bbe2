import type * as v from 'valibot';
import type { ByteFile, Field } from '../audio/index.ts';
import type { SoundFile } from '../containers/index.ts';
import type { SoundStream } from '../facts/index.ts';
import type { ListFile } from '../lists/index.ts';
import type { Card, CardFile } from './card.ts';

/** One of the sounds that a device shows. */
export interface Entry {
  readonly file: CardFile;
  /** As its display has it. */
  readonly name: string;
}

/** What a device does not play: its own curt word, and the reason in ours. */
export interface Refusal {
  readonly word: string;
  readonly reason: string;
}

/** What a device shows of a card. */
export interface Listing {
  readonly shown: readonly Entry[];
  readonly refused: readonly (Refusal & { readonly path: string })[];
}

/** What a device takes for sound in a file: bytes that it knows nothing of yet, samples, or what its decoder makes. */
export type Taken =
  | { readonly kind: 'bare'; readonly bytes: ByteFile }
  | { readonly kind: 'samples'; readonly sound: SoundFile }
  | { readonly kind: 'decoded'; readonly stream: SoundStream };

/** A file as a trait may look at it. */
export interface Looked {
  readonly bytes: ByteFile;
  /** What a reader that believes nothing but the bytes finds; bare where no header says what they are. */
  readonly honest: Taken;
  /** What follows it on the card; nothing where it is the last. */
  readonly behind: ByteFile | null;
}

/** Turns the blocks of a sound into what is heard of it, one after the other. */
export type Hear = (block: readonly Float32Array[]) => readonly Float32Array[];

/** A requirement that follows from a trait: what every file has to meet if the device is to play it. */
export interface Implied {
  readonly kind: string;
  readonly [entry: string]: unknown;
}

/**
 * One thing that a device does. The engine asks the traits in the order of their list, and each passes on what it was
 * given, changed where it does something.
 * @typeParam Id its name in a sheet
 * @typeParam V its value there
 */
export interface Trait<Id extends string, V> {
  readonly id: Id;
  /** For people: what the value is about. */
  readonly title: string;
  readonly schema: v.GenericSchema<V>;
  /** What it starts as in a form. */
  readonly usual: V;
  /** Its entries in a form; a single one with an empty key is the value itself. */
  readonly fields: readonly Field[];
  /** What the device does, as a clause: "takes 240 frames at a time". */
  words(value: V): string;
  /** What follows for files; `player` is the value of every trait. */
  implies?(value: V, player: Readonly<Record<string, unknown>>): readonly Implied[];
  /** Which sounds it shows, in which order. */
  find?(value: V, listing: Listing, card: Card, lists: readonly ListFile[]): Listing;
  /** What it takes for sound. */
  take?(value: V, taken: Taken, looked: Looked): Taken | Refusal;
  /** What its loudspeaker makes of it. */
  hear?(value: V, format: { readonly sampleRate: number; readonly channels: number }): Hear;
}

export const isRefusal = (answer: Taken | Refusal): answer is Refusal => 'word' in answer;

/** Fields of a trait that is one choice between words on what the device does. */
export const choiceFields = (options: NonNullable<Field['options']>): readonly Field[] => [
  { key: '', label: 'It', type: 'choice', options },
];
