import type { Encoding } from '../encodings/index.ts';

/** Bytes in a file beside the sound itself. */
export interface Extra {
  /** What the container calls it: a chunk's name, say. */
  readonly name: string;
  readonly bytes: number;
}

/** A tag: a name and its text. */
export interface Tag {
  readonly name: string;
  readonly value: string;
}

/** What a container states of the sound in it, and where that sound's bytes are. */
export interface SoundFile {
  readonly container: string;
  readonly encoding: Encoding;
  /** Bits of each sample that carry sound, where these are fewer than are stored: 12 bits in 16, say. */
  readonly usedBits?: number;
  /** Hz. */
  readonly sampleRate: number;
  readonly channels: number;
  readonly frames: number;
  /** The encoded samples: exactly `frames` frames, a view into the file where possible. */
  readonly data: Uint8Array;
  readonly tags: readonly Tag[];
  readonly extras: readonly Extra[];
  /** Sentences on what is odd but could be read all the same. */
  readonly warnings: readonly string[];
}

/** Encoded sound on its way into a file. */
export interface Packed {
  readonly encoding: Encoding;
  readonly sampleRate: number;
  readonly channels: number;
  readonly frames: number;
  readonly data: Uint8Array;
  /** The file's name without its extension: text forms name their array after it. */
  readonly stem: string;
  /** Text forms: put between an array and its values, `PROGMEM` say. */
  readonly storageAttribute: string;
}

/** What headerless bytes are taken to be. */
export interface Reading {
  readonly encoding: string;
  readonly sampleRate: number;
  readonly channels: number;
}

/** A kind of file that holds encoded samples. */
export interface Container {
  readonly id: string;
  readonly title: string;
  /** Usual extensions without the dot, the first being the default. */
  readonly extensions: readonly string[];
  /** True if the file says itself what its sound is. */
  readonly describesItself: boolean;
  /** Ids of the encodings that `write` can carry. */
  readonly carries: readonly string[];
  /** True if `bytes` begin as such a file does. */
  recognises(bytes: Uint8Array): boolean;
  /**
   * @param reading what the bytes are; only containers that do not describe themselves need it
   * @throws InputError where the file cannot be used
   */
  read(bytes: Uint8Array, reading?: Reading): SoundFile;
  write(packed: Packed): Uint8Array;
}
