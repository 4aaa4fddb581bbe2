import { deinterleave, InputError, type Pcm } from '../audio/index.ts';
import { type Container, containers, headerless, type Reading, type SoundFile } from '../containers/index.ts';
import { type Facts, factsOf } from './facts.ts';

/** A file's facts and its sound. */
export interface OpenedSound {
  readonly facts: Facts;
  readonly pcm: Pcm;
}

/** The container, among those that core reads itself, whose files begin as `bytes` do. */
export const recognise = (bytes: Uint8Array): Container | undefined =>
  containers.find((container) => container.recognises(bytes));

/** @throws InputError with code `empty-file` */
export function refuseEmpty(bytes: Uint8Array): void {
  if (bytes.length === 0) throw new InputError('empty-file', 'The file is empty: it has 0 bytes; choose another file.');
}

/**
 * Reads a file of one of core's own containers. Bytes that none recognises are headerless and need `reading`.
 * @throws InputError where the file cannot be used
 */
export function readPlain(bytes: Uint8Array, reading?: Reading): SoundFile {
  refuseEmpty(bytes);
  return (recognise(bytes) ?? headerless).read(bytes, reading);
}

/** Decodes what `readPlain` found and measures it. `bytes` is the size of the whole file. */
export function openSoundFile(file: SoundFile, bytes: number): OpenedSound {
  const channels = deinterleave(file.encoding.decode(file.data), file.channels);
  const pcm = { sampleRate: file.sampleRate, channels };
  return { facts: factsOf(file, pcm, bytes), pcm };
}
