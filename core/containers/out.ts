import { compressedEncodings } from '../encodings/index.ts';
import type { Container } from './container.ts';
import { containers } from './list.ts';

/** What stations and the interface know of a container that can be written, by core or by a library. */
export type OutContainer = Omit<Container, 'recognises' | 'read' | 'write'>;

const carriedBy = (container: string) =>
  compressedEncodings.filter((entry) => entry.container === container).map(({ id }) => id);

/** Containers that only a library writes. */
export const libraryContainers: readonly OutContainer[] = [
  { id: 'mp3', title: 'MP3', extensions: ['mp3'] },
  { id: 'mp4', title: 'MPEG-4', extensions: ['m4a', 'm4r', 'mp4'] },
  { id: 'flac', title: 'FLAC', extensions: ['flac'] },
  { id: 'ogg', title: 'Ogg', extensions: ['ogg', 'oga', 'opus'] },
].map((entry) => ({ ...entry, describesItself: true, holdsTags: true, carries: carriedBy(entry.id) }));

/** Every container that can be written. */
export const outContainers = (): readonly OutContainer[] => [...containers, ...libraryContainers];

export const findOutContainer = (id: string): OutContainer | undefined =>
  outContainers().find((entry) => entry.id === id);

/** @throws RangeError for an id that is not in the list: a mistake of a developer, not of a user. */
export function outContainerOf(id: string): OutContainer {
  const container = findOutContainer(id);
  if (!container) throw new RangeError(`no container "${id}"`);
  return container;
}
