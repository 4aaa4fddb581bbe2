import { oneLine } from '../audio/index.ts';
import { findOutContainer, safeIdentifier } from '../containers/index.ts';
import { type ListRow, listFileBytes, type Packed, packBytes } from '../lists/index.ts';
import type { Target } from '../targets/index.ts';
import { slotOf } from './names.ts';

/** What a delivered file is, as far as a list tells. */
export interface Listed {
  readonly displayName: string;
  readonly fileName: string;
  /** Its number in the set, where files are missing from that. */
  readonly index?: number;
  readonly facts: {
    readonly frames: number;
    readonly bytes: number;
    readonly soundBytes: number | null;
    readonly sampleRate: number;
    readonly container: string;
  };
}

/** A name as a cell of a table: one line, and nothing that a spreadsheet takes for a formula, which begins with such a sign. */
const safeCell = (name: string): string => oneLine(name).replace(/^(?=[=+\-@])/, ' ');

/** The rows of a set, in the order of its slots. */
export const listRows = (target: Pick<Target, 'places'>, files: readonly Listed[]): ListRow[] =>
  files.map(({ displayName, fileName, facts, index }, position) => {
    const stem = fileName.replace(/\.[^.]*$/, '');
    return {
      displayName: safeCell(displayName),
      fileName,
      stem,
      identifier: safeIdentifier(stem),
      slot: slotOf(target, index ?? position),
      frames: facts.frames,
      bytes: facts.bytes,
      soundBytes: facts.soundBytes ?? facts.bytes,
      sampleRate: facts.sampleRate,
      seconds: (facts.frames / facts.sampleRate).toFixed(3),
    };
  });

/** What stands between the sounds where the sheet wants all of them in one file; null where each has its own file. */
export function jointOf(
  { packs }: Pick<Target, 'packs'>,
  files: readonly { readonly facts: { readonly container: string } }[],
): string | null {
  if (packs.length === 0) return null;
  const joints = new Set(files.map(({ facts }) => findOutContainer(facts.container)?.joint));
  return joints.size === 1 ? ([...joints][0] ?? null) : null;
}

/** A file that goes with the sounds of a set, or holds them. */
export type SetFile = {
  readonly path: string;
  readonly bytes: Uint8Array<ArrayBuffer>;
} & ({ readonly role: 'list' } | ({ readonly role: 'pack' } & Pick<Packed, 'places'>));

/**
 * The files that a set has beside those of its sounds: list files, and packs where the sheet wants all sounds in one file.
 * @param textOf the text of each file; asked for only where a pack holds them, which then takes their place
 */
export async function setFiles<File extends Listed>(
  target: Pick<Target, 'lists' | 'packs' | 'places'>,
  files: readonly File[],
  textOf: (file: File) => Promise<string>,
): Promise<readonly SetFile[]> {
  if (files.length === 0) return [];
  const rows = listRows(target, files);
  const joint = jointOf(target, files);
  const contents = joint === null ? [] : await Promise.all(files.map(textOf));
  return [
    // Where the sounds cannot stand in it, it is their index.
    ...target.packs.map((pack) => ({
      role: joint === null ? ('list' as const) : ('pack' as const),
      path: pack.path,
      ...packBytes(pack, rows, { contents, joint: joint ?? '' }),
    })),
    ...target.lists.map((list) => ({ role: 'list' as const, path: list.path, bytes: listFileBytes(list, rows) })),
  ];
}
