import {
  type ByteFile,
  FACTS_VERSION,
  findEncoding,
  InputError,
  MOST_CHANNELS,
  type SoundStream,
  type StatedFacts,
} from '@tambur/core';

/** A kind of file that is decoded by libraries. */
export interface LibraryFormat {
  /** Its name in sentences. */
  readonly title: string;
  /** True if a file that begins with `head` is of this kind. */
  recognises(head: Uint8Array): boolean;
  /** True if so little speaks for it that bare samples may begin likewise: what the user says of them then counts more. */
  isDoubtful?(head: Uint8Array): boolean;
  /**
   * Reads what the file says, and makes it ready to be decoded. Errors that are no InputError mean a damaged file.
   * @param track which of several sounds, from 0
   */
  open(file: ByteFile, track: number): Promise<SoundStream>;
}

export const text = (bytes: Uint8Array, at: number, length: number): string =>
  String.fromCharCode(...bytes.subarray(at, at + length));

type Needed = 'container' | 'encoding' | 'sampleRate' | 'channels' | 'bytes';

/**
 * Stated facts with nothing said of what is not given.
 * @throws InputError if the file states more channels than are read, before any of them is decoded
 */
export function stated(facts: Pick<StatedFacts, Needed> & Partial<StatedFacts>): StatedFacts {
  if (facts.channels > MOST_CHANNELS) {
    const what = `The file states ${facts.channels} channels, and Tambur reads at most ${MOST_CHANNELS}`;
    throw new InputError('damaged', `${what}; save it again from its source.`);
  }
  return {
    version: FACTS_VERSION,
    bitDepth: null,
    plainBits: null,
    layout: null,
    soundBytes: null,
    bitRate: null,
    bitRateMode: 'unknown',
    jointStereo: null,
    tracks: [],
    track: 0,
    tags: [],
    extras: [],
    warnings: [],
    certainty: 'stated',
    expectedFrames: null,
    ...facts,
  };
}

/** Depth of an encoding that core knows, and of its plain whole numbers; nothing of others. */
export function depthOf(encoding: string): Pick<StatedFacts, 'bitDepth' | 'plainBits'> {
  const plain = findEncoding(encoding);
  const isPlain = plain?.kind === 'integer' && !plain.companded;
  return { bitDepth: plain?.bitDepth ?? null, plainBits: isPlain ? plain.bitDepth : null };
}

export const cutOff = (detail: string): string => `The file is cut off: ${detail} What is there is used.`;

/** The library's own words are for developers: they stay in `cause`. */
export function damaged(title: string, cause?: unknown): InputError {
  const error = new InputError(
    'damaged',
    `The ${title} file is damaged or cut off and cannot be decoded; get a complete copy of it.`,
  );
  error.cause = cause;
  return error;
}

export const unsupported = (title: string, what: string): InputError =>
  new InputError(
    'unsupported-codec',
    `The ${title} file holds ${what}, which Tambur cannot read; save it as PCM first.`,
  );

export const noSound = (title: string): InputError =>
  new InputError(
    'unsupported-codec',
    `The ${title} file holds no sound in an encoding that Tambur can read; save it as WAV or FLAC first.`,
  );

/**
 * The chosen one of a file's sounds.
 * @throws InputError if there is none of that number
 */
export function chosen<T>(title: string, tracks: readonly T[], track: number): T {
  const found = tracks[track];
  if (found) return found;
  if (tracks.length === 0) throw noSound(title);
  throw new InputError(
    'bad-setting',
    `The ${title} file has no sound number ${track + 1}; choose one from 1 to ${tracks.length}.`,
  );
}

/** What of a format's recognition looks at the head as text. */
export const startsWith =
  (...words: string[]) =>
  (head: Uint8Array): boolean =>
    words.some((word) => text(head, 0, word.length) === word);

/**
 * Bits of a sample of FLAC inside another container, of which the description is given: a marker or a version, the
 * block's header, and the block itself (RFC 9639, 8.2). Null if it is not there.
 */
export function flacBits(bytes: Uint8Array): number | null {
  const info = bytes.subarray(8);
  if (info.length < 34) return null;
  return ((((info[12] ?? 0) & 1) << 4) | ((info[13] ?? 0) >> 4)) + 1;
}
