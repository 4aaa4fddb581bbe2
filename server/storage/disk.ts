import { existsSync } from 'node:fs';
import type { FileHandle } from 'node:fs/promises';
import { mkdir, open, readFile, rename, stat, statfs } from 'node:fs/promises';
import { dirname } from 'node:path';
import { formatBytes, InputError } from '@tambur/core';

/** What the system says when something on the disk does not work, in words for a person, by its code. */
const TROUBLES: Readonly<Record<string, string>> = {
  ENOSPC: 'the disk is full; make room on it',
  EDQUOT: 'the disk quota is used up; make room',
  EROFS: 'the disk is read-only; make it writable, or choose another folder with --data',
  EACCES: 'Tambur has no permission to use it; grant it, or choose another folder with --data',
  EPERM: 'Tambur has no permission to use it; grant it, or choose another folder with --data',
  ENOENT: 'a folder or file is gone; put it back, or start Tambur again',
  EEXIST: 'a file stands where a folder should; choose another folder with --data',
  EISDIR: 'a folder stands where a file should; remove it, or choose another folder with --data',
  ENAMETOOLONG: 'its path is too long; choose a shorter one with --data',
  ENOTDIR: 'a file stands where a folder should; choose another folder with --data',
  EMFILE: 'too many files are open; end other work and try again',
  ENFILE: 'too many files are open on this machine; end other programs and try again',
  EIO: 'the disk reports an error; copy the folder to another disk while that is possible',
};

/** What a system error means for whoever uses Tambur; null if it is none of the disk. */
export function diskTrouble(error: unknown): string | null {
  const code = (error as NodeJS.ErrnoException | null)?.code;
  // SQLite and threads give the system's code as a part of their words at best.
  const known = code && code in TROUBLES ? code : codeIn(error);
  return known ? (TROUBLES[known] ?? null) : null;
}

function codeIn(error: unknown): string | undefined {
  const words = error instanceof Error ? error.message : '';
  if (/SQLITE_FULL|disk is full/.test(words)) return 'ENOSPC';
  if (/SQLITE_READONLY|readonly database/.test(words)) return 'EROFS';
  if (/SQLITE_CANTOPEN|unable to open database/.test(words)) return 'ENOENT';
  if (/SQLITE_IOERR|disk I\/O error/.test(words)) return 'EIO';
  return /\b(ENOSPC|EDQUOT|EROFS|EACCES|EPERM|ENOENT|EEXIST|EISDIR|ENAMETOOLONG|ENOTDIR|EMFILE|ENFILE|EIO)\b/.exec(
    words,
  )?.[1];
}

/** The same as an error whose one sentence can be shown; errors of another kind stay as they are. */
export function asDiskError(error: unknown): unknown {
  const trouble = error instanceof InputError ? null : diskTrouble(error);
  if (trouble === null) return error;
  const shown = new InputError('cannot-write', `The data folder cannot be used: ${trouble}.`);
  shown.cause = error;
  return shown;
}

/** Writes all of the bytes: the system may take fewer at a time. */
export async function writeAll(file: Pick<FileHandle, 'write'>, bytes: Uint8Array): Promise<void> {
  for (let at = 0; at < bytes.length; ) {
    const { bytesWritten } = await file.write(bytes, at, bytes.length - at);
    if (bytesWritten === 0) throw Object.assign(new Error('the disk accepted no more bytes'), { code: 'ENOSPC' });
    at += bytesWritten;
  }
}

/** Makes a folder with those around it. One by one: Node's own way never ends where the system makes none, as below /proc. */
export async function makeFolder(path: string): Promise<void> {
  if (existsSync(path)) {
    if (!(await stat(path)).isDirectory()) throw Object.assign(new Error('it is not a folder'), { code: 'ENOTDIR' });
    return;
  }
  if (dirname(path) !== path) await makeFolder(dirname(path));
  await mkdir(path);
}

/** Puts a file's bytes, or a folder's entries, safely on the disk. */
export async function flush(path: string): Promise<void> {
  const handle = await open(path, 'r');
  try {
    await handle.sync();
  } finally {
    await handle.close();
  }
}

/** Makes an unfinished file or folder visible under its real name, durably. */
export async function publish(unfinished: string, finished: string): Promise<void> {
  await flush(unfinished);
  await rename(unfinished, finished);
  await flush(dirname(finished));
}

/** Writes a small file as a whole or not at all, also over an older one. */
export async function writeWhole(path: string, content: string | Uint8Array): Promise<void> {
  const unfinished = `${path}.part`;
  const file = await open(unfinished, 'w');
  try {
    await writeAll(file, typeof content === 'string' ? Buffer.from(content) : content);
    await file.sync();
  } finally {
    await file.close();
  }
  await publish(unfinished, path);
}

/** What a small JSON file holds; null if it is not there or no JSON. */
export async function readJson(path: string): Promise<unknown> {
  try {
    return JSON.parse(await readFile(path, 'utf8'));
  } catch (error) {
    if (error instanceof SyntaxError || (error as NodeJS.ErrnoException).code === 'ENOENT') return null;
    throw error;
  }
}

/** Left free, so that the database and the rest of the machine can go on. */
const RESERVE = 50_000_000;

/**
 * Looks whether something fits before it is begun.
 * @throws InputError with code `cannot-write` if it does not
 */
export async function refuseWhatWillNotFit(folder: string, bytes: number, what: string): Promise<void> {
  const { bavail, bsize } = await statfs(folder);
  const free = Math.max(0, bavail * bsize - RESERVE);
  if (bytes <= free) return;
  throw new InputError(
    'cannot-write',
    `${what} needs ${formatBytes(Math.ceil(bytes))} on the disk, and ${formatBytes(free)} are free; make room on it.`,
  );
}
