import type { ByteFile } from '../bytes/index.ts';

/** One file of a card. */
export interface CardFile {
  /** From the top of the card, names joined by slashes. */
  readonly path: string;
  readonly bytes: ByteFile;
}

/** What a device is given: files in the order in which they were copied, whatever they came from. */
export type Card = readonly CardFile[];

/** The name of a file without its folders. */
export const nameIn = (path: string): string => path.slice(path.lastIndexOf('/') + 1);

/** The folders of a file, empty for the top. */
export const folderIn = (path: string): string => path.slice(0, Math.max(0, path.lastIndexOf('/')));

/** What a computer put there for itself: names that begin with a dot, and what lies in folders of such names. */
export const isHidden = (path: string): boolean => path.split('/').some((name) => name.startsWith('.'));

/** The name of a file without its folders and its extension. */
export const stemIn = (path: string): string => nameIn(path).replace(/\.[^.]*$/, '');

/** The extension of a file in lower case, without the dot; empty if it has none. */
export const extensionIn = (path: string): string => /\.([^.]+)$/.exec(nameIn(path))?.[1]?.toLowerCase() ?? '';
