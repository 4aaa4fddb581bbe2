import { type Levels, LONGEST_ENTRY, MOST_ENTRIES, notFinite } from '../audio/index.ts';
import type { Extra, SoundFile, Tag } from '../containers/index.ts';
import { checkFormat, findContainer, foreignContainers, outContainers } from '../containers/index.ts';
import { anyEncoding } from '../encodings/index.ts';
import { InputError, shortened } from '../words/index.ts';
import type { Measures } from './meter.ts';

/** One of several sounds in a file. */
export interface Track {
  /** For people: "2: AC-3, 6 channels, 48 000 Hz, de". */
  readonly title: string;
}

/** Counts changes of what facts hold, and of what is stored beside a sound: those of an older version are read again from the file. */
export const FACTS_VERSION = 7;

/** What a file is, read from its bytes. */
export interface Facts {
  readonly version: number;
  /** Id of the container; of a library's where Tambur does not read it itself. */
  readonly container: string;
  /** Id of the form of source code in whose array the whole file stands; left out if it stands in none. */
  readonly array?: string;
  /** Id of the encoding. */
  readonly encoding: string;
  /** Hz. */
  readonly sampleRate: number;
  /** Bits of one sample that carry sound; null if the encoding has no such figure (MP3, AAC, ...). */
  readonly bitDepth: number | null;
  readonly channels: number;
  /** Speakers that the channels are for, as far as the file says. */
  readonly layout: readonly string[] | null;
  readonly frames: number;
  /** Size of the file. */
  readonly bytes: number;
  /** Size of the encoded samples alone: what they take in the device's memory. Null if nobody can tell. */
  readonly soundBytes: number | null;
  /** Bits of encoded sound per second. */
  readonly bitRate: number;
  readonly bitRateMode: 'constant' | 'variable' | 'unknown';
  /** True if some of the sound is stored as joint stereo; null if there is no such thing or nobody can tell. */
  readonly jointStereo: boolean | null;
  /** All sounds of the file, where there are several, and which of them this is. */
  readonly tracks: readonly Track[];
  readonly track: number;
  readonly tags: readonly Tag[];
  readonly extras: readonly Extra[];
  /** Sentences on what is odd in the file but could be read all the same. */
  readonly warnings: readonly string[];
  /**
   * How encoding, rate and channels are known: the file states them; Tambur has just written these bytes and read them
   * back; or the bytes are headerless and were read as somebody said.
   */
  readonly certainty: 'stated' | 'written' | 'assumed';
  readonly levels: Levels;
  readonly measures: Measures;
}

/** What a file says before its sound is decoded. */
export interface StatedFacts extends Omit<Facts, 'frames' | 'bitRate' | 'levels' | 'measures'> {
  /** Null if only the length will tell. */
  readonly bitRate: number | null;
  /** Bits of plain whole-number samples; null for everything else. */
  readonly plainBits: number | null;
  /** Frames, where the file says; what is decoded counts. */
  readonly expectedFrames: number | null;
}

/**
 * Holds what a file says within what can be worked with, whatever it claims: the one place that every file passes.
 * @throws InputError if it has no channel or rate, or too much of one
 */
export function boundStated(stated: StatedFacts): StatedFacts {
  const kind = containerTitle(stated.container);
  checkFormat(kind, stated.channels, stated.sampleRate);
  const cut = (text: string) => shortened(text, LONGEST_ENTRY);
  const few = <T>(entries: readonly T[]) => entries.slice(0, MOST_ENTRIES);
  return {
    ...stated,
    tags: few(stated.tags).map(({ name, value }) => ({ name: cut(name), value: cut(value) })),
    extras: few(stated.extras).map(({ name, bytes }) => ({ name: cut(name), bytes })),
    warnings: few(stated.warnings).map(cut),
    tracks: few(stated.tracks).map(({ title }) => ({ title: cut(title) })),
  };
}

/** Facts that a file states in one of core's own containers. */
export function statedFacts(file: SoundFile, bytes: number): StatedFacts {
  const { encoding, codec, sampleRate } = file;
  return {
    version: FACTS_VERSION,
    container: file.container,
    ...(file.within ? { array: file.within.array } : {}),
    encoding: encoding.id,
    sampleRate,
    bitDepth: file.usedBits ?? encoding.bitDepth,
    channels: file.channels,
    layout: file.layout ?? null,
    bytes,
    // All of a file in an array is in the device's memory.
    soundBytes: file.within?.bytes ?? file.data.size,
    bitRate: Math.round((sampleRate / codec.unitFrames) * codec.unitBytes * 8),
    bitRateMode: 'constant',
    jointStereo: null,
    tracks: [],
    track: 0,
    tags: file.tags,
    extras: file.extras,
    warnings: file.warnings,
    certainty: findContainer(file.container)?.describesItself ? 'stated' : 'assumed',
    plainBits: encoding.kind === 'integer' && !encoding.companded ? encoding.bitDepth : null,
    expectedFrames: file.frames,
  };
}

/**
 * Joins what a file says with what was measured of its sound.
 * @throws InputError with code `no-frames` if nothing came out
 */
export function finishFacts(
  { plainBits, expectedFrames, ...stated }: StatedFacts,
  frames: number,
  measured: { readonly levels: Levels; readonly measures: Measures },
  laterWarnings: readonly string[],
): Facts {
  if (frames === 0) {
    const kind = containerTitle(stated.container);
    throw new InputError('no-frames', `The ${kind} file holds no sound: it has 0 frames; choose another file.`);
  }
  const facts: Facts = {
    ...stated,
    frames,
    bitRate: stated.bitRate ?? Math.round(((stated.soundBytes ?? stated.bytes) * 8 * stated.sampleRate) / frames),
    warnings: [...stated.warnings, ...laterWarnings],
    ...measured,
  };
  const place = notFinite(facts);
  if (place === null) return facts;
  throw new InputError(
    'damaged',
    `The ${containerTitle(facts.container)} file's ${place} is not a number; save it again.`,
  );
}

const titleIn = (entries: readonly { readonly id: string; readonly title: string }[], id: string) =>
  entries.find((entry) => entry.id === id)?.title;

/** "WAV", "WAV in C header": a file's container for people, with the array in which it stands. */
export const containerWords = ({ container, array }: Pick<Facts, 'container' | 'array'>): string =>
  array === undefined ? containerTitle(container) : `${containerTitle(container)} in ${containerTitle(array)}`;

/** A container's name for people. */
export const containerTitle = (id: string): string => titleIn([...outContainers(), ...foreignContainers], id) ?? id;

/** An encoding's name for people. */
export const encodingTitle = (id: string): string => anyEncoding(id)?.title ?? id;
