import type { Container } from './container.ts';
import { containers } from './list.ts';
import { wav } from './wav.ts';

export type { Container, Extra, FileWriter, Packing, Reading, SoundFile, Tag } from './container.ts';
export { canCarry, packFile } from './container.ts';
export { type ForeignContainer, foreignContainers } from './foreign.ts';
export { headerless } from './headerless.ts';
export { containers } from './list.ts';
export { findOutContainer, libraryContainers, type OutContainer, outContainerOf, outContainers } from './out.ts';
export { checkFormat } from './refusals.ts';
export { safeIdentifier, type TextOptions, USUAL_TEXT } from './text/options.ts';
export { soundsIn } from './text/several.ts';
export { wavFile } from './wav-file.ts';

const byId = new Map(containers.map((container) => [container.id, container]));

export const findContainer = (id: string): Container | undefined => byId.get(id);

/** @throws RangeError for an id that is not in the list: a mistake of a developer, not of a user. */
export function containerOf(id: string): Container {
  const container = byId.get(id);
  if (!container) throw new RangeError(`no container "${id}"`);
  return container;
}

/** What is used where neither a sheet nor a user says. */
export const USUAL_CONTAINER = wav.id;
