import type * as v from 'valibot';
import type { ByteFile } from '../bytes/index.ts';
import { headerless, type Reading, type SoundFile } from '../containers/index.ts';
import { plainStream, type SoundStream, type StatedFacts } from '../facts/index.ts';
import { oneOf } from '../forms/index.ts';
import type { ListFile } from '../lists/index.ts';
import type { Card, CardFile } from './card.ts';
import type { Remedy } from './remedy.ts';
import type { SymptomId } from './symptoms.ts';

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
export type DeviceReading =
  | { readonly kind: 'bare'; readonly bytes: ByteFile }
  | { readonly kind: 'samples'; readonly sound: SoundFile }
  | {
      readonly kind: 'decoded';
      readonly stream: SoundStream;
      /** Null if nobody has counted. */
      readonly frames: number | null;
      /** Why the device plays it as silence. */
      readonly silenced?: string;
    };

/** What a device has made of bytes. */
export type Sound = Exclude<DeviceReading, { readonly kind: 'bare' }>;

/** A file as a trait may look at it. */
export interface FileView {
  readonly file: ByteFile;
  /** What of it comes into the device's memory: of source code the samples alone. */
  readonly bytes: ByteFile;
  /** What a reader that believes nothing but the bytes finds; bare where no header says what they are. */
  readonly honest: DeviceReading;
  /** What follows it on the card; nothing if it is the last. */
  readonly behind: ByteFile | null;
  /** How the device takes bare samples; undefined if its sheet does not say. */
  readonly bareReading: Reading | undefined;
}

/** Turns the blocks of a sound into what is heard of it, one after the other. */
export type Hear = (block: readonly Float32Array[]) => readonly Float32Array[];

/** How a device is operated while it plays. */
export interface Circumstances {
  /** How hard it is struck, 0..1. */
  readonly velocity: number;
  /** True during a call, or while others talk. */
  readonly isBusy: boolean;
  /** True if somebody has made it be quiet. */
  readonly isQuiet: boolean;
  /** From the note at which the sound plays as it is. */
  readonly semitones: number;
  /** Seconds after which its pad or key is let go. */
  readonly letGoAfter: number;
  /** What the device is set to change by the strength of a strike, beside how loud it is. */
  readonly byStrike: readonly StrikeEffect[];
}

/** What a strike may change besides how loud a sound is. */
export type StrikeEffect = 'length' | 'pitch';

/** What circumstances make of a sound. */
export interface Moment {
  /** Amplitude is multiplied by it. */
  readonly gain?: number;
  /** It is played so many semitones higher. */
  readonly semitones?: number;
  /** It ends after this part of its length. */
  readonly share?: number;
  /** It ends after so many seconds. */
  readonly seconds?: number;
  /** Why nothing is heard. */
  readonly held?: string;
}

/** What a person can try at the device, whatever the file is. */
export interface Attempt extends Pick<Remedy, 'words'> {
  /** When one hears or sees this of it. */
  readonly at: readonly SymptomId[];
}

/** What is wrong with the files that a trait hides or refuses. */
export interface Trouble<V> {
  /** Stable name of the cause; traits of the same trouble share it. */
  readonly id: string;
  /** "It has another name than the device sees." */
  readonly title: string;
  /** How to tell it from others. */
  readonly tellApart: string;
  readonly remedy: Remedy;
  /** Of files that are not shown: what is to be seen of that, in a sentence. Left out where they are refused, with a reason. */
  hidden?(value: V, file: CardFile, card: Card): string;
}

/** A requirement that follows from a trait: what every file has to meet if the device is to play it. */
export interface ImpliedRequirement {
  readonly kind: string;
  readonly [entry: string]: unknown;
}

/** What a device does with a file that does not meet a requirement of some kind. */
export interface Otherwise {
  readonly kind: string;
  /** "with anything else it ...": "refuses the file". */
  readonly words: string;
  /** Entry of the trait that this choice decides, so that no form asks for it as well; empty if that is all of it. */
  readonly decides?: string;
  /**
   * What the trait is worth for a device that takes what is asked; its schema says whether a device can be like that.
   * @param before what the trait is worth so far, as one trait may speak of several kinds
   */
  value(asked: ImpliedRequirement, before: object | undefined): unknown;
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
  /** What forms ask is said in it. */
  readonly schema: v.GenericSchema<V>;
  /** What the device does, as a clause: "takes 240 frames at a time". */
  words(value: V): string;
  /** What follows for files; `player` is the value of every trait. */
  implies?(value: V, player: Readonly<Record<string, unknown>>): readonly ImpliedRequirement[];
  /** Kinds of requirement of which it gives a sign where a file does not meet them, beside those that it implies. */
  reveals?(value: V, player: Readonly<Record<string, unknown>>): readonly string[];
  /** What it says of files that do not meet a requirement, for forms. */
  readonly otherwise?: readonly Otherwise[];
  /** What is wrong with the files that it hides or refuses, where it does nothing else with them. */
  readonly trouble?: Trouble<V>;
  /** What a person can try because of it. */
  steps?(value: V): readonly Attempt[];
  /** What it sees of a card that came after another one, without having been restarted. */
  recall?(value: V, card: Card, before: Card, lists: readonly ListFile[]): Card;
  /** Which sounds it shows, in which order. */
  find?(value: V, listing: Listing, card: Card, lists: readonly ListFile[]): Listing;
  /** What it takes for sound. */
  take?(value: V, taken: DeviceReading, looked: FileView): DeviceReading | Refusal;
  /** True if it has to know how long a sound is. */
  readonly needsFrames?: true;
  /** What circumstances make of a sound. */
  moment?(value: V, circumstances: Circumstances): Moment;
  /** What its loudspeaker makes of it. */
  hear?(value: V, format: { readonly sampleRate: number; readonly channels: number }): Hear;
}

export const isRefusal = (answer: DeviceReading | Refusal): answer is Refusal => 'word' in answer;

/** What a device refuses that knows sounds, but not such ones. */
export const refuses = (reason: string): Refusal => ({ word: 'unsupported', reason });

/** What is known of a sound before it is decoded; undefined of bare bytes. */
export const statedOf = (
  taken: DeviceReading,
): Pick<StatedFacts, 'container' | 'encoding' | 'sampleRate' | 'channels' | 'bitRate' | 'bitRateMode'> | undefined => {
  if (taken.kind === 'bare') return undefined;
  return streamOf(taken).stated;
};

/** Frames of a sound, where somebody has counted them. */
export const framesOf = (taken: DeviceReading): number | null =>
  taken.kind === 'samples' ? taken.sound.frames : taken.kind === 'decoded' ? taken.frames : null;

/** The sound, ready to be decoded. */
export const streamOf = (taken: Sound): SoundStream =>
  taken.kind === 'decoded' ? taken.stream : plainStream(taken.sound, taken.sound.data.size);

/**
 * The bytes of a sound taken for another: of another encoding, rate or number of channels.
 * @throws InputError if they cannot be
 */
export const takenAs = (
  { encoding, sampleRate, channels, data, container }: SoundFile,
  otherwise: Partial<Reading>,
): SoundFile => ({
  ...headerless.read(data, { encoding: encoding.id, sampleRate, channels, ...otherwise }),
  container,
});

/** A sound at another rate than it states; bytes that nobody knows anything of stay what they are. */
export function playedAt(taken: DeviceReading, sampleRate: number): DeviceReading {
  if (taken.kind === 'bare') return taken;
  if (taken.kind === 'samples') return { ...taken, sound: { ...taken.sound, sampleRate } };
  const { stream } = taken;
  return { ...taken, stream: { ...stream, stated: { ...stream.stated, sampleRate } } };
}

/** A sound that the device shows and plays as silence. @param reason in a sentence */
export function silenced(taken: Sound, reason: string): DeviceReading {
  const { stated, blocks } = streamOf(taken);
  return {
    kind: 'decoded',
    frames: framesOf(taken),
    silenced: reason,
    stream: {
      stated,
      async *blocks() {
        for await (const block of blocks()) yield block.map((samples) => new Float32Array(samples.length));
      },
    },
  };
}

/** So many frames of the beginning of a sound; all of it if there are no more. */
export async function* firstFrames(
  blocks: ReturnType<SoundStream['blocks']>,
  frames: number,
): AsyncGenerator<readonly Float32Array[]> {
  let left = frames;
  for await (const block of blocks) {
    if (left <= 0) return;
    const count = Math.min(left, block[0]?.length ?? 0);
    yield block.map((samples) => samples.subarray(0, count));
    left -= count;
  }
}

/** Exactly so many frames of a sound: the rest cut off, or silence after it. */
export function withFrames(taken: DeviceReading, frames: number): DeviceReading {
  if (taken.kind === 'bare') return taken;
  const stream = streamOf(taken);
  return {
    ...(taken.kind === 'decoded' ? taken : {}),
    kind: 'decoded',
    frames,
    stream: {
      stated: stream.stated,
      async *blocks() {
        let left = frames;
        for await (const block of firstFrames(stream.blocks(), frames)) {
          yield block;
          left -= block[0]?.length ?? 0;
        }
        if (left > 0) yield Array.from({ length: stream.stated.channels }, () => new Float32Array(left));
      },
    },
  };
}

/** What a device does with what it does not know. */
const OTHERS = {
  refuses: 'are refused',
  silent: 'are played as silence',
  'as-if': 'are taken for the first of these',
} as const;
export const othersSchema = oneOf(OTHERS);

/** The same, as a clause: "refuses other encodings". @param first what the others are taken for */
export const othersWords = (others: keyof typeof OTHERS, what: string, first: string): string =>
  ({ refuses: `refuses ${what}`, silent: `plays silence for ${what}`, 'as-if': `takes ${what} for ${first}` })[others];

/** What comes of a sound that a device does not know, if it does not take it for one that it knows. */
export const unknownTo = (others: 'refuses' | 'silent', taken: Sound, reason: string): DeviceReading | Refusal =>
  others === 'silent' ? silenced(taken, reason) : refuses(reason);

/** The same as what it does with files that do not meet a requirement that has a list of choices. */
export const othersChoices = (kind: string): readonly Otherwise[] =>
  Object.entries({
    refuses: 'refuses the file',
    silent: 'plays silence',
    'as-if': 'plays it as if it were the first of these',
  }).map(([others, words]) => ({ kind, words, decides: 'others', value: ({ anyOf }) => ({ anyOf, others }) }));
