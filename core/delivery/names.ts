import { inLatin } from '../audio/index.ts';
import { outContainerOf, USUAL_CONTAINER } from '../containers/index.ts';
import { demandsOf, type Target } from '../targets/index.ts';

/** The words of a text in lower-case Latin letters and digits, whatever it is written in. */
export const latinWords = (text: string): string[] =>
  inLatin(text)
    .toLowerCase()
    .match(/[a-z0-9]+/g) ?? [];

/** Longest stem that is made: room for an extension and a counter below what every file system takes. */
const LONGEST = 60;

/** Names that some file systems keep for devices, with or without an extension (common practice, no source). */
const RESERVED = /^(con|prn|aux|nul|com\d|lpt\d)$/;

/**
 * The one function that makes names safe: from any text to lower-case letters, digits and the separator. Never empty,
 * never a path, never a reserved name.
 */
export function safeStem(text: string, separator: '-' | '_', longest = LONGEST): string {
  const words = latinWords(text);
  const stem = shortened((words.length ? words : ['clip']).join(separator), longest);
  return RESERVED.test(stem) ? `${shortened(stem, longest - 5)}${separator}clip` : stem;
}

const shortened = (stem: string, longest: number): string => stem.slice(0, Math.max(1, longest)).replace(/[-_]+$/, '');

/** Most characters that a sheet leaves for a stem. */
function longestStem(target: Naming): number {
  const { name, extensions } = demandsOf(target);
  const extension = extensions?.value[0] ?? outContainerOf(USUAL_CONTAINER).extensions[0];
  const withExtension = (name?.value.mostWithExtension ?? LONGEST + extension.length + 1) - extension.length - 1;
  return Math.max(1, Math.min(LONGEST, name?.value.most ?? LONGEST, withExtension));
}

type Naming = Pick<Target, 'naming' | 'requirements' | 'places'>;

/** The number of the slot that plays clip `index`, from 0. */
export const slotOf = ({ places }: Pick<Target, 'places'>, index: number): number => (places?.first ?? 0) + index;

/** What the place of clip `index`, from 0, is called: "button 4, horn"; null where the sheet names no places. */
export function slotWords(target: Pick<Target, 'places'>, index: number): string | null {
  const { places } = target;
  if (!places) return null;
  const number = slotOf(target, index);
  const label = places.labels[number];
  return `${places.words[0]} ${number}${label ? `, ${label}` : ''}`;
}

/**
 * Safe stems for a set as its sheet wants them, in order: the number of the slot, or the clip's own name. A stem that was
 * taken gets the next free number: bell, bell-2, bell-3.
 */
export function stemsOf(names: readonly string[], target: Naming): string[] {
  const { separator } = target.naming;
  const rule = demandsOf(target).name?.value;
  if (rule?.digits) return names.map((_, index) => String(slotOf(target, index)).padStart(rule.digits ?? 0, '0'));
  const longest = longestStem(target);
  const inCase = (stem: string) => (rule?.letterCase === 'upper' ? stem.toUpperCase() : stem);
  const taken = new Set((rule?.reserved ?? []).map((name) => name.toLowerCase()));
  return names.map((name) => {
    const plain = safeStem(name, separator, longest);
    const stem = rule?.notDigitsOnly && /^\d+$/.test(plain) ? safeStem(`clip ${name}`, separator, longest) : plain;
    let free = stem;
    for (let count = 2; taken.has(free); count++) {
      const counter = `${separator}${count}`;
      free = `${shortened(stem, longest - counter.length)}${counter}`;
    }
    taken.add(free);
    return inCase(free);
  });
}
