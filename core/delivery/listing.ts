import { findOutContainer, safeIdentifier } from '../containers/index.ts';
import {
  type ListFile,
  type ListRow,
  listFileBytes,
  type MergedList,
  mergeList,
  type Packed,
  packBytes,
  safeCell,
} from '../lists/index.ts';
import type { Target } from '../targets/index.ts';

/** A delivered file, with the facts that lists use. */
export interface Listed {
  readonly displayName: string;
  readonly fileName: string;
  /** Numbers of the places that it plays at, the first one first. */
  readonly slots: readonly number[];
  readonly facts: {
    readonly frames: number;
    readonly bytes: number;
    readonly soundBytes: number | null;
    readonly sampleRate: number;
    readonly container: string;
    /** The form of source code in whose array the whole file stands. */
    readonly array?: string;
  };
}

/** The rows of a set: one for each file, in their order, or one for each place that a file plays at, in the order of the places. */
export function listRows(files: readonly Listed[], per: ListFile['per'] = 'file'): ListRow[] {
  const rows = files.flatMap(({ displayName, fileName, facts, slots }) => {
    const stem = fileName.replace(/\.[^.]*$/, '');
    const row = {
      displayName: safeCell(displayName),
      fileName,
      stem,
      identifier: safeIdentifier(stem),
      frames: facts.frames,
      bytes: facts.bytes,
      soundBytes: facts.soundBytes ?? facts.bytes,
      sampleRate: facts.sampleRate,
      seconds: (facts.frames / facts.sampleRate).toFixed(3),
    };
    return (per === 'place' ? slots : slots.slice(0, 1)).map((slot) => ({ ...row, slot }));
  });
  return per === 'place' ? rows.sort((a, b) => a.slot - b.slot) : rows;
}

/** The joint between the sounds of a pack; null if each sound has its own file. */
export function jointOf(
  { packs }: Pick<Target, 'packs'>,
  files: readonly { readonly facts: Pick<Listed['facts'], 'container' | 'array'> }[],
): string | null {
  if (packs.length === 0) return null;
  const joints = new Set(files.map(({ facts }) => findOutContainer(facts.array ?? facts.container)?.joint));
  return joints.size === 1 ? ([...joints][0] ?? null) : null;
}

/** The lists that the device has now, by the keys of the sheet's. */
export type OwnLists = ReadonlyMap<string, Uint8Array>;

/** The device's own list with the rows of a set in it. @throws InputError if it has no rows to learn from */
export const mergedList = (
  { places }: Pick<Target, 'places'>,
  list: ListFile,
  files: readonly Listed[],
  own: Uint8Array,
): MergedList => mergeList(own, list, listRows(files, list.per), places !== undefined || list.row.includes('{slot}'));

function listBytes(target: Pick<Target, 'places'>, list: ListFile, files: readonly Listed[], ownLists: OwnLists) {
  const own = ownLists.get(list.key);
  return own ? mergedList(target, list, files, own).bytes : listFileBytes(list, listRows(files, list.per));
}

/** A file that goes with the sounds of a set, or holds them. */
export type SetFile = {
  readonly path: string;
  readonly bytes: Uint8Array<ArrayBuffer>;
} & ({ readonly role: 'list' } | ({ readonly role: 'pack' } & Pick<Packed, 'places'>));

/** What a file of a set has of its sounds: a pack has all of them, each where it stands in it. */
export const partsIn = <Part>(file: SetFile, parts: readonly Part[]) =>
  file.role === 'pack' ? parts.flatMap((part, i) => (file.places[i] ? [{ ...part, ...file.places[i] }] : [])) : [];

/**
 * The files that a set has beside those of its sounds: list files, and packs where the sheet wants all sounds in one file.
 * @param textOf the text of each file; asked for only where a pack holds them, which then takes their place
 * @throws InputError with code `cannot-read` if a list of the device's own has no rows to learn from
 */
export async function setFiles<File extends Listed>(
  target: Pick<Target, 'lists' | 'packs' | 'places'>,
  files: readonly File[],
  textOf: (file: File) => Promise<string>,
  ownLists: OwnLists = new Map(),
): Promise<readonly SetFile[]> {
  if (files.length === 0) return [];
  const rows = listRows(files);
  const joint = jointOf(target, files);
  const contents = joint === null ? [] : await Promise.all(files.map(textOf));
  return [
    // Where the sounds cannot stand in it, it is their index.
    ...target.packs.map((pack) => ({
      role: joint === null ? ('list' as const) : ('pack' as const),
      path: pack.path,
      ...packBytes(pack, rows, { contents, joint: joint ?? '' }),
    })),
    ...target.lists.map((list) => ({
      role: 'list' as const,
      path: list.path,
      bytes: listBytes(target, list, files, ownLists),
    })),
  ];
}
