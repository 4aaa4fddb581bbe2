import { unzipSync } from 'fflate';
import { inMemory } from '../bytes/index.ts';
import { InputError } from '../words/index.ts';
import type { Card } from './card.ts';

/** Most files of a card in a ZIP, and most bytes of all of them together. */
const MOST_FILES = 20_000;
const MOST_BYTES = 2_000_000_000;

/** True for files that begin as a ZIP does: with the header of its first entry, or with its end where it has none. */
export const isZip = ([p, k, third, fourth]: Uint8Array): boolean =>
  p === 0x50 && k === 0x4b && ((third === 3 && fourth === 4) || (third === 5 && fourth === 6));

/**
 * The files in a ZIP, in its own order.
 * @param name what the ZIP is called, for refusals
 * @throws InputError if it is damaged, or holds too much
 */
export function cardOfZip(bytes: Uint8Array, name: string): Card {
  const paths: string[] = [];
  let total = 0;
  const wanted = ({ name: path, originalSize }: { readonly name: string; readonly originalSize: number }) => {
    if (path.endsWith('/')) return false;
    total += originalSize;
    paths.push(path);
    if (paths.length > MOST_FILES || total > MOST_BYTES) {
      throw new InputError(
        'too-large',
        `${name} holds more than 20 000 files or 2 GB; unpack it, and name the folder.`,
      );
    }
    return true;
  };
  let contents: Readonly<Record<string, Uint8Array>>;
  try {
    contents = unzipSync(bytes, { filter: wanted });
  } catch (error) {
    if (error instanceof InputError) throw error;
    throw new InputError('damaged', `${name} is damaged or not a whole ZIP file; get a complete copy of it.`);
  }
  return [...new Set(paths)].map((path) => ({ path, bytes: inMemory(contents[path] ?? new Uint8Array(0)) }));
}
