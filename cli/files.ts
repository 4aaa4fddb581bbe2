import { mkdir, open, readFile, rename, rm, stat } from 'node:fs/promises';
import { join } from 'node:path';
import { openSource } from '@tambur/codecs';
import { InputError, type OpenedSound, type Reading, refuseTooLarge } from '@tambur/core';

const errorCode = (error: unknown) => (error as NodeJS.ErrnoException).code ?? 'unknown error';

/** @throws InputError naming the file, where it cannot be read or used */
export async function openFile(path: string, reading?: Reading): Promise<OpenedSound> {
  let bytes: Uint8Array;
  try {
    const { size } = await stat(path);
    refuseTooLarge(path, size);
    bytes = await readFile(path);
  } catch (error) {
    if (error instanceof InputError) throw error;
    const code = errorCode(error);
    const why = code === 'ENOENT' ? 'does not exist' : code === 'EISDIR' ? 'is a folder' : `cannot be read (${code})`;
    throw new InputError('cannot-read', `${path} ${why}; name an audio file.`);
  }
  try {
    return await openSource(bytes, reading);
  } catch (error) {
    if (error instanceof InputError) throw new InputError(error.code, `${path}: ${error.message}`);
    throw error;
  }
}

/**
 * Writes a complete file or none: under a temporary name first.
 * @throws InputError with code `cannot-write`
 */
export async function writeWhole(folder: string, name: string, bytes: Uint8Array): Promise<string> {
  const path = join(folder, name);
  const unfinished = `${path}.part`;
  try {
    await mkdir(folder, { recursive: true });
    const file = await open(unfinished, 'w');
    try {
      await file.writeFile(bytes);
      await file.sync();
    } finally {
      await file.close();
    }
    await rename(unfinished, path);
    return path;
  } catch (error) {
    await rm(unfinished, { force: true }).catch(() => undefined);
    throw new InputError(
      'cannot-write',
      `${path} cannot be written (${errorCode(error)}); choose another folder with --out.`,
    );
  }
}
