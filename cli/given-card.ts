import { openSourceStream } from '@tambur/codecs';
import {
  type ByteFile,
  beginningOf,
  type Card,
  InputError,
  nameIn,
  type Pcm,
  type SoundStream,
  stemIn,
} from '@tambur/core';
import { type FileToCheck, givenFiles, openFile } from './files.ts';
import { rests, watched, works } from './life.ts';

/** A card that was named on the command line: a folder, a ZIP, or a file from anywhere. */
export interface GivenCard {
  readonly card: Card;
  /** True if it is all that a device would have. */
  readonly isWhole: boolean;
}

/** @throws InputError if it cannot be read */
export async function givenCard(path: string): Promise<GivenCard> {
  const { files, isCard } = await givenFiles([path], (paths, use) => Promise.all(paths.map(use)));
  const card = files.map(({ path: at, bytes }: FileToCheck) => ({
    path: isCard ? at : nameIn(at.replaceAll('\\', '/')),
    bytes,
  }));
  return { card, isWhole: isCard };
}

/** Opens what core does not read itself, under watch. */
export async function openForeign(file: ByteFile): Promise<SoundStream> {
  works();
  try {
    return watched(await openSourceStream(file));
  } finally {
    rests();
  }
}

/**
 * The path of a card that is meant by a path, a name, a display's name, or a number as the device counts.
 * @throws InputError with code `cannot-read` if there is no such entry
 */
export function entryOf(wanted: string, entries: readonly { readonly path: string; readonly name: string }[]): string {
  const is = (path: string, name: string) => [path, nameIn(path), stemIn(path), name].includes(wanted);
  const found =
    entries.find(({ path, name }) => is(path, name)) ?? entries[/^\d+$/.test(wanted) ? Number(wanted) - 1 : -1];
  if (!found) {
    const known = entries
      .slice(0, 12)
      .map(({ name }) => name)
      .join(', ');
    throw new InputError(
      'cannot-read',
      `There is no entry "${wanted}"; ${known ? `choose one of: ${known}` : 'the device shows none'}.`,
    );
  }
  return found.path;
}

/** The first so many seconds of a file's sound. @throws InputError naming the file, where it cannot be read */
export async function soundOf(path: string, seconds: number): Promise<Pcm> {
  const file = openFile(path);
  try {
    return await beginningOf(await openForeign(file), seconds);
  } finally {
    file.close();
  }
}
