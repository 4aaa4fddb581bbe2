import { type Levels, measureLevels, type Pcm } from '../audio/index.ts';
import type { Extra, SoundFile, Tag } from '../containers/index.ts';
import { findContainer } from '../containers/index.ts';
import { findEncoding } from '../encodings/index.ts';

/** What a file is, read from its bytes. */
export interface Facts {
  /** Id of the container, `wav` say; of a library's where Tambur does not read it itself. */
  readonly container: string;
  /** Id of the encoding, `pcm-s16le` say. */
  readonly encoding: string;
  /** Hz. */
  readonly sampleRate: number;
  /** Bits of one sample that carry sound; null where the encoding has no such figure (MP3, AAC, ...). */
  readonly bitDepth: number | null;
  readonly channels: number;
  readonly frames: number;
  /** Size of the file. */
  readonly bytes: number;
  /** Size of the encoded samples alone: what they take in the device's memory. Null where nobody can tell. */
  readonly soundBytes: number | null;
  /** Bits of encoded sound per second. */
  readonly bitRate: number;
  readonly bitRateMode: 'constant' | 'variable' | 'unknown';
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
}

/** Facts of a file that core reads itself. */
export function factsOf(file: SoundFile, pcm: Pcm, bytes: number): Facts {
  const { encoding, sampleRate, channels, frames } = file;
  return {
    container: file.container,
    encoding: encoding.id,
    sampleRate,
    bitDepth: file.usedBits ?? encoding.bitDepth,
    channels,
    frames,
    bytes,
    soundBytes: file.data.length,
    bitRate: sampleRate * channels * encoding.bytesPerSample * 8,
    bitRateMode: 'constant',
    tags: file.tags,
    extras: file.extras,
    warnings: file.warnings,
    certainty: findContainer(file.container)?.describesItself ? 'stated' : 'assumed',
    levels: measureLevels(pcm),
  };
}

/** Containers and encodings that libraries read, by the ids that facts use for them. */
const LIBRARY_TITLES: Readonly<Record<string, string>> = {
  mp3: 'MP3',
  mp4: 'MPEG-4',
  adts: 'ADTS',
  flac: 'FLAC',
  ogg: 'Ogg',
  aac: 'AAC',
  alac: 'ALAC',
  vorbis: 'Vorbis',
  opus: 'Opus',
};

/** A container's name for people. */
export const containerTitle = (id: string): string => findContainer(id)?.title ?? LIBRARY_TITLES[id] ?? id;

/** An encoding's name for people. */
export const encodingTitle = (id: string): string => findEncoding(id)?.title ?? LIBRARY_TITLES[id] ?? id;
