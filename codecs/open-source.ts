import {
  type ByteFile,
  boundStated,
  headerless,
  headOf,
  InputError,
  inMemory,
  type OpenedSound,
  openStream,
  plainStream,
  type Reading,
  readPlain,
  recognise,
  refuseEmpty,
  type SoundStream,
  type WholeIn,
  wholeIn,
} from '@tambur/core';
import { damaged } from './formats/format.ts';

/** What the user says of a file that does not say it itself. */
export interface OpenOptions {
  /** What bytes of no known kind are; without it, such are refused. */
  readonly reading?: Reading | undefined;
  /** What the bytes are, whatever they look like. */
  readonly readAs?: Reading | undefined;
  /** Which of several sounds, from 0. */
  readonly track?: number | undefined;
}

/**
 * Opens any file that Tambur takes, in Node and in a browser worker: core's own containers, then the libraries'
 * formats. The content decides, never the name. Its sound is decoded as its blocks are asked for.
 * @throws InputError if the file cannot be used
 */
export async function openSourceStream(file: ByteFile, options: OpenOptions = {}): Promise<SoundStream> {
  const { reading, readAs, track = 0 } = options;
  refuseEmpty(file);
  if (readAs) return plainStream(headerless.read(file, readAs), file.size);
  const whole = wholeIn(file);
  if (whole) return withinArray(await openSourceStream(whole.file, options), file, whole);
  const head = headOf(file);
  if (recognise(head)) return plainStream(readPlain(file, reading), file.size);
  // The libraries are large, and most files of devices need none of them.
  const { libraryFormats } = await import('./formats/list.ts');
  const format = libraryFormats.find((entry) => entry.recognises(head));
  if (!format || (reading && format.isDoubtful?.(head))) return plainStream(readPlain(file, reading), file.size);
  try {
    const stream = await format.open(file, track);
    return { ...stream, stated: boundStated(stream.stated) };
  } catch (error) {
    throw error instanceof InputError ? error : damaged(format.title, error);
  }
}

/** What a file in an array says, and that it stands in one: all of it is in the device's memory. */
function withinArray(stream: SoundStream, { size }: ByteFile, { array, file }: WholeIn): SoundStream {
  return { ...stream, stated: { ...stream.stated, array, bytes: size, soundBytes: file.size } };
}

/** Opens a file in memory and decodes it as a whole. */
export async function openSource(bytes: Uint8Array, options: OpenOptions = {}): Promise<OpenedSound> {
  return openStream(await openSourceStream(inMemory(bytes), options));
}
