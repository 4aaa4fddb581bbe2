import { randomUUID } from 'node:crypto';
import { mkdir, readFile, rename, rm, stat } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { basename, dirname, join, relative, sep } from 'node:path';
import { workerData } from 'node:worker_threads';
import { type OpenOptions, openSourceStream } from '@tambur/codecs';
import {
  type ByteFile,
  type CardFile,
  cardOfZip,
  type Facts,
  factsOfLevels,
  InputError,
  isHidden,
  isZip,
  type LikelyReading,
  likelyReadings,
  type PcmReader,
  partOf,
  refuseTooLarge,
  type SoundStream,
  sequentialReader,
  surveyStream,
} from '@tambur/core';
import { createDiskStore, type DiskFile, type DiskStore, diskFileAt, filesBelow, openDiskFile } from '@tambur/disk';
import { likelyBeside } from './beside.ts';
import { rests, watched, works } from './life.ts';

/** Bytes that are a header's size and more: readings are weighed on so much of a file. */
const MOST_WEIGHED = 24_000_000;

/**
 * What headerless bytes may be, the likeliest first.
 * @throws InputError if the file cannot be read
 */
export function readingsOfFile(path: string, skip: number): readonly LikelyReading[] {
  const file = openFile(path);
  try {
    return likelyReadings(partOf(file, 0, MOST_WEIGHED), skip);
  } finally {
    file.close();
  }
}

const isFolder = async (path: string) => (await stat(path).catch(() => null))?.isDirectory() ?? false;

/** @throws InputError if the folder holds no file */
async function someFilesBelow(folder: string): Promise<readonly string[]> {
  const files = await filesBelow(folder);
  if (files.length === 0) throw new InputError('cannot-read', `${folder} is an empty folder; name one with files.`);
  return files;
}

/** A file that is to be checked. */
export interface FileToCheck extends CardFile {
  /** As the user knows it. */
  readonly shown: string;
}

/** What is to be checked: files from anywhere, or a card. */
export interface GivenFiles {
  readonly files: readonly FileToCheck[];
  readonly isCard: boolean;
}

/**
 * The files that were named; where one folder or one ZIP was, it stands for the card, and all that is in it is given.
 * @param each opens each file; one that cannot be opened is said there, and does not stop the rest
 * @throws InputError if a card cannot be read
 */
export async function givenFiles(
  paths: readonly string[],
  each: <T>(paths: readonly string[], use: (path: string) => Promise<T>) => Promise<readonly T[]>,
): Promise<GivenFiles> {
  const [top = '.'] = paths;
  const isCard = paths.length === 1 && (await isFolder(top));
  const listed = isCard ? await someFilesBelow(top) : paths;
  const found = await each(listed, async (path) => ({ path, file: orNamed(path, () => diskFileAt(path)) }));
  const [only] = found;
  if (!isCard && paths.length === 1 && only && isZip(only.file.read(0, 4))) {
    const card = cardOfZip(only.file.read(0, only.file.size), only.path);
    return { files: card.map((file) => ({ ...file, shown: `${only.path}: ${file.path}` })), isCard: true };
  }
  const files = found.map(({ path, file }) => ({
    shown: path,
    path: isCard ? relative(top, path).split(sep).join('/') : path,
    bytes: file,
  }));
  return { files, isCard };
}

/** The first bytes of a file. @throws InputError naming the file, where it cannot be opened */
export function headOf(path: string, bytes: number): Uint8Array {
  const file = openFile(path);
  try {
    return file.read(0, Math.min(bytes, file.size)).slice();
  } finally {
    file.close();
  }
}

/** Where this thread's temporary folder goes: whoever started it removes that however it ends. */
const temporary = (workerData as { readonly temporary?: string } | null)?.temporary;

/** Runs `use` with a folder of its own, one at a time. */
export async function withTemporaryFolder<T>(use: (folder: string) => Promise<T>): Promise<T> {
  const folder = temporary ?? join(tmpdir(), `tambur-${randomUUID()}`);
  await mkdir(folder);
  try {
    return await use(folder);
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}

/** The files that were named, and those below each folder that was, but for hidden ones, as a person would order them. */
export async function filesOf(paths: readonly string[]): Promise<readonly string[]> {
  const inOrder = new Intl.Collator('en', { numeric: true }).compare;
  const found: string[] = [];
  for (const path of paths) {
    if (!(await isFolder(path))) found.push(path);
    else {
      const below = (await someFilesBelow(path)).filter((file) => !isHidden(relative(path, file).split(sep).join('/')));
      found.push(...below.toSorted(inOrder));
    }
  }
  return found;
}

/** A sheet, a job or a table is a text of a few MB at most. */
const LARGEST_TEXT = 64_000_000;

/** @throws InputError with code `cannot-read`, or `too-large` */
export async function readText(path: string, advice = "name a sheet's file or an id"): Promise<string> {
  try {
    const { size } = await stat(path);
    refuseTooLarge(path, size, LARGEST_TEXT);
    return await readFile(path, 'utf8');
  } catch (error) {
    if (error instanceof InputError) throw error;
    throw new InputError('cannot-read', `${path} cannot be read (${errorCode(error)}); ${advice}.`);
  }
}

const errorCode = (error: unknown) => (error as NodeJS.ErrnoException).code ?? 'unknown error';

/** @throws InputError naming the file, where it cannot be opened */
export const openFile = (path: string): DiskFile => orNamed(path, () => openDiskFile(path));

function orNamed<T>(path: string, open: () => T): T {
  try {
    return open();
  } catch (error) {
    const code = errorCode(error);
    const why = code === 'ENOENT' ? 'does not exist' : code === 'EISDIR' ? 'is a folder' : `cannot be read (${code})`;
    throw new InputError('cannot-read', `${path} ${why}; name an audio file.`);
  }
}

/** Facts of a file that is open. */
export async function factsOf(file: ByteFile, options: OpenOptions): Promise<Facts> {
  try {
    works();
    return await surveyStream(watched(await openSourceStream(file, options)), () => undefined);
  } finally {
    rests();
  }
}

/** Opens a file of the disk for as long as `use` runs; errors name it. */
async function withFile<T>(path: string, options: OpenOptions, use: (stream: SoundStream) => Promise<T>) {
  const file = openFile(path);
  try {
    works();
    return await use(watched(await openSourceStream(file, options)));
  } catch (error) {
    if (error instanceof InputError && !error.message.startsWith(path)) {
      throw new InputError(error.code, `${path}: ${error.message}`);
    }
    throw error;
  } finally {
    rests();
    file.close();
  }
}

/** An open file whose sound is to be used. */
export interface OpenSound {
  readonly path: string;
  readonly options: OpenOptions;
  /** What the facts of a long sound are likely to be. Null if they are not guessed. */
  readonly likely: Facts | null;
  facts(): Promise<Facts>;
  /** Reads the sound that the facts are of. */
  reader(facts: Facts): PcmReader;
}

/**
 * Opens a file for as long as `use` runs.
 * @throws InputError naming the file, where it cannot be read or used
 */
export const withSound = <T>(path: string, options: OpenOptions, use: (sound: OpenSound) => Promise<T>): Promise<T> =>
  withFile(path, options, async (stream) =>
    use({
      path,
      options,
      likely: await likelyBeside(stream),
      facts: () => surveyStream(stream, () => undefined),
      reader: (facts) => stream.reader ?? sequentialReader(stream, facts),
    }),
  );

/**
 * A file's facts; its sound is read and not kept.
 * @throws InputError naming the file, where it cannot be read or used
 */
export const factsOfFile = (path: string, options: OpenOptions = {}): Promise<Facts> =>
  withFile(path, options, (stream) => surveyStream(stream, () => undefined));

/**
 * What was likely of a file, with the levels of all of its sound.
 * @throws InputError naming the file, where it cannot be read or used
 */
export const levelsOfFile = (path: string, options: OpenOptions, likely: Facts): Promise<Facts> =>
  withFile(path, options, (stream) => factsOfLevels(stream, likely));

/**
 * Makes a complete file or none: written under a temporary name first.
 * @throws InputError with code `cannot-write`
 */
export async function inFolder<T>(
  folder: string,
  name: string,
  write: (store: DiskStore) => Promise<T> | T,
): Promise<{ readonly file: string; readonly result: T }> {
  const file = join(folder, name);
  const unfinished = `${file}.part`;
  try {
    await mkdir(folder, { recursive: true });
    await rm(unfinished, { force: true });
    const store = createDiskStore(unfinished);
    let result: T;
    try {
      result = await write(store);
    } finally {
      store.close();
    }
    await rename(unfinished, file);
    return { file, result };
  } catch (error) {
    await rm(unfinished, { force: true }).catch(() => undefined);
    if (!(error instanceof Error && 'code' in error) || error instanceof InputError) throw error;
    throw new InputError(
      'cannot-write',
      `${file} cannot be written (${errorCode(error)}); choose another folder with --out.`,
    );
  }
}

export async function removeFiles(paths: readonly string[]): Promise<void> {
  await Promise.all(paths.map((path) => rm(path)));
}

/** Writes a whole file, or nothing. */
export async function writeBytes(path: string, bytes: Uint8Array): Promise<string> {
  const { file } = await inFolder(dirname(path), basename(path), (store) => {
    store.write(bytes);
    store.written();
  });
  return file;
}
