import type { ByteFile } from '../bytes/index.ts';
import type { Container } from './container.ts';
import { containers } from './list.ts';
import { HEAD_BYTES } from './text/form.ts';
import type { WholeIn } from './text/whole-file.ts';
import { wav } from './wav.ts';

export type {
  Container,
  Extra,
  FileWriter,
  Packing,
  Reading,
  SoundFile,
  Tag,
  WholeArray,
  WholeFile,
} from './container.ts';
export { canCarry, packFile } from './container.ts';
export { type ForeignContainer, foreignContainers } from './foreign.ts';
export { headerless } from './headerless.ts';
export { containers } from './list.ts';
export { findOutContainer, libraryContainers, type OutContainer, outContainerOf, outContainers } from './out.ts';
export { checkFormat } from './refusals.ts';
export { PLAYER_STEM } from './text/keywords.ts';
export { safeIdentifier, type TextOptions, USUAL_TEXT } from './text/options.ts';
export { soundsIn } from './text/several.ts';
export { LARGEST_WHOLE, type WholeIn } from './text/whole-file.ts';
export { wavFile } from './wav-file.ts';
export { WAVE_EXTENSIBLE, waveEncoding, waveName, waveSampleBytes } from './wave-numbers.ts';

const byId = new Map(containers.map((container) => [container.id, container]));

export const findContainer = (id: string): Container | undefined => byId.get(id);

/** @throws RangeError for an id that is not in the list: a mistake of a developer, not of a user. */
export function containerOf(id: string): Container {
  const container = byId.get(id);
  if (!container) throw new RangeError(`no container "${id}"`);
  return container;
}

/** Used if neither the sheet nor the user chooses. */
export const USUAL_CONTAINER = wav.id;

/** Forms of source code whose arrays can hold whole files. */
export const arrayForms: readonly Container[] = containers.filter(({ array }) => array);

/**
 * The whole file that stands in an array of source code; null if a file is none, or holds samples alone.
 * @throws InputError with code `damaged` if it is not what its first line states
 */
export function wholeIn(file: ByteFile): WholeIn | null {
  const head = file.read(0, Math.min(HEAD_BYTES, file.size));
  const form = arrayForms.find(({ array }) => array?.holds(head));
  return form?.array ? { array: form.id, file: form.array.open(file) } : null;
}
