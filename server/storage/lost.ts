import { appendFile, mkdir, readdir, rename } from 'node:fs/promises';
import { join } from 'node:path';
import { type DataFolder, isUnfinished } from './data-folder.ts';

/** A moment as a part of a file name: 2026-03-04T05-06-07-890Z. */
export const stamp = (moment = new Date()): string => moment.toISOString().replace(/[:.]/g, '-');

/**
 * Sets entries of a folder aside that nothing refers to: they move to `lost/`, and a list there says what they were. What
 * is unfinished is left alone.
 * @param what they are, for the list
 * @returns how many there were
 */
export async function setAside(
  data: DataFolder,
  folder: string,
  isLost: (name: string) => boolean,
  what: string,
): Promise<number> {
  const names = (await readdir(folder)).filter((name) => !isUnfinished(name) && isLost(name));
  if (names.length === 0) return 0;
  const now = stamp();
  await mkdir(data.lost, { recursive: true });
  for (const [i, name] of names.entries()) {
    const place = `${now}-${i + 1}-${name}`.slice(0, 200);
    await rename(join(folder, name), join(data.lost, place));
    await appendFile(join(data.lost, 'list.txt'), `${place}\t${what}\t${join(folder, name)}\n`);
  }
  return names.length;
}
