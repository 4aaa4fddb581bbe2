import { readdir } from 'node:fs/promises';
import { join } from 'node:path';

/**
 * Files below a folder, hidden ones too, in the order of their names.
 * @param isLeftOut whether what is called so is passed over, with all that it holds: it may be gone the next moment
 */
export async function filesBelow(
  folder: string,
  isLeftOut: (name: string) => boolean = () => false,
): Promise<readonly string[]> {
  const files: string[] = [];
  const walk = async (inside: string): Promise<void> => {
    for (const entry of await readdir(inside, { withFileTypes: true })) {
      if (isLeftOut(entry.name)) continue;
      const path = join(inside, entry.name);
      if (entry.isDirectory()) await walk(path);
      else if (entry.isFile()) files.push(path);
    }
  };
  await walk(folder);
  return files.sort();
}
