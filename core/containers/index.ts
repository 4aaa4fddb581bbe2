import { aiff, aiffC } from './aiff.ts';
import { au } from './au.ts';
import { cHeader } from './c-header.ts';
import { caf } from './caf.ts';
import type { Container } from './container.ts';
import { headerless } from './headerless.ts';
import { wav } from './wav.ts';

export { cIdentifier } from './c-header.ts';
export type { Container, Extra, FileWriter, Packing, Reading, SoundFile, Tag } from './container.ts';
export { packFile } from './container.ts';
export { headerless } from './headerless.ts';
export { wavFile } from './wav-file.ts';

/**
 * Every container that Tambur reads and writes itself. A new one: its file, and its line here. The first that recognises
 * a file reads it; headerless recognises none.
 */
export const containers: readonly Container[] = [wav, aiff, aiffC, au, caf, cHeader, headerless];

const byId = new Map(containers.map((container) => [container.id, container]));

export const findContainer = (id: string): Container | undefined => byId.get(id);

/** @throws RangeError for an id that is not in the list: a mistake of a developer, not of a user. */
export function containerOf(id: string): Container {
  const container = byId.get(id);
  if (!container) throw new RangeError(`no container "${id}"`);
  return container;
}
