import { readFile, stat } from 'node:fs/promises';
import { InputError, LARGEST_LIST, type OwnLists } from '@tambur/core';
import { sha256Of } from '@tambur/disk';
import type { DataFolder } from './data-folder.ts';
import { writeWhole } from './disk.ts';

/** All bytes of a list file, which is short. @throws InputError with code `too-large` */
export async function listBytesOf(pieces: AsyncIterable<Uint8Array>): Promise<Uint8Array> {
  const parts: Uint8Array[] = [];
  let size = 0;
  for await (const piece of pieces) {
    size += piece.length;
    if (size > LARGEST_LIST) {
      throw new InputError('too-large', 'The list file is larger than 1 MB; choose a smaller one.');
    }
    parts.push(piece);
  }
  return Buffer.concat(parts);
}

/** Keeps a list file; gives its SHA-256, by which jobs know it. */
export async function keepList(data: DataFolder, bytes: Uint8Array): Promise<string> {
  const sha256 = sha256Of(bytes);
  const isThere = await stat(data.list(sha256)).then(
    () => true,
    () => false,
  );
  if (!isThere) await writeWhole(data.list(sha256), bytes);
  return sha256;
}

/**
 * The device's own lists of a job, by the keys of the sheet's.
 * @throws InputError with code `cannot-read` if one is gone
 */
export async function ownListsOf(data: DataFolder, ownLists: Readonly<Record<string, string>>): Promise<OwnLists> {
  const read = async ([key, sha256]: [string, string]) => {
    const bytes = await readFile(data.list(sha256)).catch(() => null);
    if (bytes && sha256Of(bytes) === sha256) return [key, new Uint8Array(bytes)] as const;
    throw new InputError('cannot-read', `The device's list ${key} is missing; add it to the job again.`);
  };
  return new Map(await Promise.all(Object.entries(ownLists).map(read)));
}
