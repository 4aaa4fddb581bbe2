import { type OutContainer, outContainerOf, USUAL_CONTAINER } from '../containers/index.ts';
import { DEVICES } from '../lists/index.ts';
import { type Asking, askedContainer, demandsOf, type Target } from '../targets/index.ts';
import { inLatin } from '../words/index.ts';

/** The words of a text in lower-case Latin letters and digits, whatever it is written in. */
export const latinWords = (text: string): string[] =>
  inLatin(text)
    .toLowerCase()
    .match(/[a-z0-9]+/g) ?? [];

/** Longest stem that is made: room for an extension and a counter below what every file system takes. */
const LONGEST = 60;

/**
 * The one function that makes names safe: from any text to lower-case letters, digits and the separator. Never empty,
 * never a path, never a reserved name.
 */
export function safeStem(text: string, separator: '-' | '_' | '', longest = LONGEST): string {
  const words = latinWords(text);
  const stem = shortened((words.length ? words : ['clip']).join(separator), longest);
  return DEVICES.test(stem) ? `${shortened(stem, longest - 5)}${separator}clip` : stem;
}

const shortened = (stem: string, longest: number): string => stem.slice(0, Math.max(1, longest)).replace(/[-_]+$/, '');

/** Most characters that a sheet leaves for a stem. */
function longestStem(target: Naming): number {
  const { name, extensions } = demandsOf(target);
  const extension = extensions?.value[0] ?? outContainerOf(USUAL_CONTAINER).extensions[0];
  const withExtension = (name?.value.mostWithExtension ?? LONGEST + extension.length + 1) - extension.length - 1;
  return Math.max(1, Math.min(LONGEST, name?.value.most ?? LONGEST, withExtension));
}

export type Naming = Pick<Target, 'naming' | 'places'> & Asking & Partial<Pick<Target, 'lists' | 'packs'>>;

/** Stems of the lists and packs of a sheet whose files end as its sounds do. */
function stemsBeside(target: Naming): readonly string[] {
  const { containers, extensions } = demandsOf(target);
  const ends = extensions?.value ?? containers?.value.flatMap((id) => outContainerOf(id).extensions) ?? [];
  return [...(target.lists ?? []), ...(target.packs ?? [])].flatMap(({ path }) => {
    const [, stem = '', end = ''] = /([^/]*)\.([^./]*)$/.exec(path) ?? [];
    return ends.includes(end.toLowerCase()) ? [stem.toLowerCase()] : [];
  });
}

/** The stem made from a name, and how many more characters the sheet allows: negative if characters were cut off. */
export interface StemOfName {
  readonly stem: string;
  readonly left: number;
}

/** What the sheet asks sounds to be: source code has its own rules for names. */
function formOf(target: Naming): OutContainer {
  const demands = demandsOf(target);
  return outContainerOf([...(demands.arrays?.value ?? []), askedContainer(demands)][0]);
}

/** What joins the words of a name. */
const separatorOf = (target: Naming): '-' | '_' | '' =>
  demandsOf(target).name?.value.alphanumeric ? '' : target.naming.separator;

/** The stem of a name as it is typed, before it is made different from the others of its set. */
export function stemOfName(name: string, target: Naming): StemOfName {
  const separator = separatorOf(target);
  const rule = demandsOf(target).name?.value;
  const longest = longestStem(target);
  const whole = (latinWords(name).length ? latinWords(name) : ['clip']).join(separator);
  const plain = safeStem(name, separator, longest);
  const isTaken = (rule?.notDigitsOnly && /^\d+$/.test(plain)) || formOf(target).takesStem?.(plain) === false;
  const stem = isTaken ? safeStem(`clip ${name}`, separator, longest) : plain;
  return { stem: rule?.letterCase === 'upper' ? stem.toUpperCase() : stem, left: longest - whole.length };
}

/**
 * Safe stems for names of a set as its sheet wants them, in order. A stem that was taken gets the next free number: bell,
 * bell-2, bell-3.
 */
export function stemsOf(names: readonly string[], target: Naming): string[] {
  const separator = separatorOf(target);
  const longest = longestStem(target);
  const form = formOf(target);
  const symbolOf = (stem: string): string => (form.symbolOf?.(stem) ?? stem).toLowerCase();
  // Names that differ in their case alone are the same to many file systems.
  const reserved = (demandsOf(target).name?.value.reserved ?? []).map((name) => name.toLowerCase());
  const taken = new Set([...reserved, ...stemsBeside(target)].map(symbolOf));
  return names.map((name) => {
    const { stem } = stemOfName(name, target);
    let free = stem;
    for (let count = 2; taken.has(symbolOf(free)); count++) {
      const counter = `${separator}${count}`;
      free = `${shortened(stem, longest - counter.length)}${counter}`;
    }
    taken.add(symbolOf(free));
    return free;
  });
}
