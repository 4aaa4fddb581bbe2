import { type ByteFile, concatenated } from '../bytes/index.ts';
import { type Codec, findEncoding, type PlainEncoding } from '../encodings/index.ts';
import type { TextOptions } from './text/options.ts';

/** Bytes in a file beside the sound itself. */
export interface Extra {
  /** What the container calls it, such as a chunk's name. */
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
  readonly encoding: PlainEncoding;
  readonly codec: Codec;
  /** Bits of each sample that carry sound, where these are fewer than are stored, such as 12 bits in 16. */
  readonly usedBits?: number;
  /** Hz. */
  readonly sampleRate: number;
  readonly channels: number;
  /** Speakers that the channels are for, where the file says. */
  readonly layout?: readonly string[];
  readonly frames: number;
  /** The encoded samples: `frames` frames and nothing else, but for what fills a last block. */
  readonly data: ByteFile;
  /** Where in the file they begin; left out if they do not stand there as bytes. */
  readonly dataAt?: number;
  /** Where the whole file stands in an array: the form of that, and the file's own size. */
  readonly within?: { readonly array: string; readonly bytes: number };
  readonly tags: readonly Tag[];
  readonly extras: readonly Extra[];
  /** Sentences on what is odd but could be read all the same. */
  readonly warnings: readonly string[];
}

/** A sound on its way into a file: what is known before its encoded samples come. */
export interface Packing {
  readonly encoding: PlainEncoding;
  /** Hz, whole. */
  readonly sampleRate: number;
  readonly channels: number;
  readonly frames: number;
  /** Size of all encoded samples. */
  readonly dataBytes: number;
  /** The file's name without its extension: text forms name their array after it. */
  readonly stem: string;
  /** Written as far as the container has a place for them. */
  readonly tags?: readonly Tag[];
  /** For text forms; what is left out is as usual. */
  readonly text?: Partial<TextOptions>;
}

/** Makes a file of encoded samples that come piece by piece; the file is head, bodies and tail one after the other. */
export interface FileWriter {
  readonly head: Uint8Array;
  /** The next encoded samples as they are in the file. A piece holds whole samples. */
  body(data: Uint8Array): Uint8Array;
  tail(): Uint8Array;
  /** Bytes of the whole file, where that is known before it is made. */
  readonly size?: number;
}

/** A file that holds so many bytes of encoded samples as they are, between what is in front of them and behind. */
export const aroundSamples = (
  head: Uint8Array,
  dataBytes: number,
  behind: Uint8Array = new Uint8Array(0),
): FileWriter => ({
  head,
  body: (data) => data,
  tail: () => behind,
  size: head.length + dataBytes + behind.length,
});

/** True if `container` can hold samples of an encoding. */
export const canCarry = (container: Pick<Container, 'carries' | 'carriesEvery'>, encoding: string): boolean =>
  container.carries.includes(encoding) || (container.carriesEvery === true && findEncoding(encoding) !== undefined);

/** A whole file in memory. */
export function packFile(container: Container, packing: Omit<Packing, 'dataBytes'>, data: Uint8Array): Uint8Array {
  const writer = container.write({ ...packing, dataBytes: data.length });
  return concatenated([writer.head, writer.body(data), writer.tail()]);
}

/** How headerless bytes are read. */
export interface Reading {
  readonly encoding: string;
  readonly sampleRate: number;
  readonly channels: number;
  /** Bytes in front of the first sample. */
  readonly skip?: number | undefined;
  /** Bits of each sample that are used, where these are fewer than are stored and stand at the low end. */
  readonly bits?: number | undefined;
}

/** A whole file to be written as an array. */
export interface WholeFile extends Pick<Packing, 'stem' | 'text' | 'sampleRate' | 'channels' | 'frames'> {
  /** Id and title of its container. */
  readonly container: string;
  readonly title: string;
}

/** A form of source code as an array that holds the bytes of a whole file. */
export interface WholeArray {
  /** True if a text that begins with `head` holds one. */
  holds(head: Uint8Array): boolean;
  /** @throws InputError with code `damaged` */
  open(file: ByteFile): ByteFile;
  pack(file: Uint8Array, what: WholeFile): Uint8Array;
}

/** A kind of file that holds encoded samples. */
export interface Container {
  readonly id: string;
  readonly title: string;
  /** Usual extensions without the dot, the first being the default. */
  readonly extensions: readonly string[];
  /** True if the file says itself what its sound is. */
  readonly describesItself: boolean;
  /** Size of a file, where its header has room for no larger one. */
  readonly mostBytes?: number | undefined;
  /** Id of the container whose files it holds too where they are too large. */
  readonly enlarges?: string | undefined;
  /** Ids of the encodings that `write` can carry; the usual ones, where it carries every one. */
  readonly carries: readonly string[];
  readonly carriesEvery?: boolean;
  /** Source code: true if a file may have this name beside others and their player. */
  takesStem?(stem: string): boolean;
  /** What source code calls the sound of a file of this name: two files of one delivery must not come to one. */
  symbolOf?(stem: string): string;
  /** Source code that is compiled file by file: declares the array of another file. */
  declare?(name: string, encoding: PlainEncoding, elementType: string): string;
  /** True if it has a place for tags. */
  readonly holdsTags?: boolean;
  /** For text forms: the options that they have a use for. */
  readonly textOptions?: readonly (keyof TextOptions)[];
  /** The programming language of source code. */
  readonly language?: string;
  /** For forms whose arrays can hold whole files too. */
  readonly array?: WholeArray;
  /** For forms of which several can stand in one file: what stands between them. */
  readonly joint?: string;
  /** True if a file that begins with `head` is of this kind. */
  recognises(head: Uint8Array): boolean;
  /**
   * @param reading what the bytes are; only containers that do not describe themselves need it
   * @throws InputError if the file cannot be used
   */
  read(file: ByteFile, reading?: Reading): SoundFile;
  write(packing: Packing): FileWriter;
}
