import { readdir } from 'node:fs/promises';
import { join } from 'node:path';

/** Files below a folder, hidden ones too, in the order of their names. */
export async function filesBelow(folder: string): Promise<readonly string[]> {
  const entries = await readdir(folder, { recursive: true, withFileTypes: true });
  return entries
    .filter((entry) => entry.isFile())
    .map((entry) => join(entry.parentPath, entry.name))
    .sort();
}
