import { isHidden, messageOf } from '@tambur/core';
import { sha256Of } from '../ui/sha256.ts';

/** A file to be written, in the order in which files are copied. */
export interface FolderFile {
  /** From the top of the folder. */
  readonly path: string;
  readonly sha256: string;
  bytes(signal: AbortSignal): Promise<Uint8Array<ArrayBuffer>>;
}

/** What lies in a folder before anything is written. */
export interface FolderSurvey {
  /** Files that would be replaced. */
  readonly replaced: readonly string[];
  /** Files of anybody else. */
  readonly others: readonly string[];
  /** Of those, what a computer put there for itself. */
  readonly hidden: readonly string[];
  /** False if there are so many that not all of them were looked at. */
  readonly isWhole: boolean;
}

/** More files than that are not looked at. */
const MOST_LISTED = 5000;

/** Adds the paths of all files in a folder. Gives false if there are too many. */
async function addPaths(paths: string[], folder: FileSystemDirectoryHandle, above = ''): Promise<boolean> {
  for await (const [name, handle] of folder.entries()) {
    const path = above + name;
    if (handle.kind === 'directory') {
      if (!(await addPaths(paths, handle as FileSystemDirectoryHandle, `${path}/`))) return false;
    } else if (paths.length >= MOST_LISTED) return false;
    else paths.push(path);
  }
  return true;
}

/** Looks at a folder that files are to be written into. */
export async function surveyFolder(
  folder: FileSystemDirectoryHandle,
  files: readonly Pick<FolderFile, 'path'>[],
): Promise<FolderSurvey> {
  const there: string[] = [];
  const isWhole = await addPaths(there, folder);
  const ours = new Set(files.map(({ path }) => path.toLowerCase()));
  const others = there.filter((path) => !ours.has(path.toLowerCase())).sort();
  return {
    replaced: there.filter((path) => ours.has(path.toLowerCase())).sort(),
    others,
    hidden: others.filter(isHidden),
    isWhole,
  };
}

/** Says which file could not be written; what was written before it is whole. */
export class NotWritten extends Error {
  constructor(
    readonly path: string,
    /** True if something of it is there that could not be removed again. */
    readonly isLeft: boolean,
    cause: unknown,
  ) {
    const isForbidden = cause instanceof DOMException && cause.name === 'NotAllowedError';
    const why = isForbidden ? 'the browser was not allowed to' : messageOf(cause).replace(/\.$/, '');
    super(`${path} could not be written (${why}); make room or choose another folder, and write again.`, { cause });
  }
}

/** A browser may hold on to a file for a while after its writing was given up. */
const LETS_GO_TRIES = 50;
const LETS_GO_MS = 100;

/** Removes a file that was made here. Gives false if it cannot be. */
async function isRemoved(folder: FileSystemDirectoryHandle, name: string): Promise<boolean> {
  for (let tries = 0; tries < LETS_GO_TRIES; tries++) {
    try {
      await folder.removeEntry(name);
      return true;
    } catch (error) {
      if (!(error instanceof DOMException)) throw error;
      if (error.name === 'NotFoundError') return true;
      if (error.name !== 'NoModificationAllowedError') return false;
    }
    await new Promise((resolve) => setTimeout(resolve, LETS_GO_MS));
  }
  return false;
}

async function folderAt(folder: FileSystemDirectoryHandle, path: string): Promise<FileSystemDirectoryHandle> {
  let at = folder;
  for (const name of path.split('/').slice(0, -1)) at = await at.getDirectoryHandle(name, { create: true });
  return at;
}

const isThere = (folder: FileSystemDirectoryHandle, name: string): Promise<boolean> =>
  folder.getFileHandle(name).then(
    () => true,
    () => false,
  );

/** Writes one file as a whole, or leaves what was there; its bytes are read again and compared. */
async function writeFile(folder: FileSystemDirectoryHandle, file: FolderFile, signal: AbortSignal): Promise<void> {
  const bytes = await file.bytes(signal);
  const inside = await folderAt(folder, file.path);
  const name = file.path.slice(file.path.lastIndexOf('/') + 1);
  const wasThere = await isThere(inside, name);
  const handle = await inside.getFileHandle(name, { create: true });
  try {
    // What is written takes the file's place when it is closed, and not before.
    const stream = await handle.createWritable();
    try {
      await stream.write(bytes);
      signal.throwIfAborted();
      await stream.close();
    } catch (error) {
      await stream.abort().catch(() => undefined);
      throw error;
    }
    const found = await sha256Of(await (await handle.getFile()).arrayBuffer());
    if (found !== file.sha256) throw new Error('other bytes were read back than were written');
  } catch (error) {
    // An empty file with its name would look like a sound that does not play.
    throw new NotWritten(file.path, !wasThere && !(await isRemoved(inside, name)), error);
  }
}

/**
 * Writes files into a folder one after the other, in their order, and reads each of them again.
 * @param onWritten told after each file how many are there
 * @throws NotWritten naming the file that is not there as a whole; the signal's reason where it was stopped between two
 */
export async function writeFolder(
  folder: FileSystemDirectoryHandle,
  files: readonly FolderFile[],
  signal: AbortSignal,
  onWritten: (count: number) => void,
): Promise<void> {
  for (const [index, file] of files.entries()) {
    signal.throwIfAborted();
    try {
      await writeFile(folder, file, signal);
    } catch (error) {
      throw error instanceof NotWritten ? error : new NotWritten(file.path, false, error);
    }
    onWritten(index + 1);
  }
}
