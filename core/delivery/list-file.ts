import { oneLine } from '../audio/index.ts';
import { findOutContainer, safeIdentifier } from '../containers/index.ts';
import type { ListFile, Target } from '../targets/index.ts';
import { slotOf } from './names.ts';

/** What a row of a list file can show. */
export interface ListRow {
  readonly displayName: string;
  readonly fileName: string;
  readonly stem: string;
  /** The stem as a name in source code. */
  readonly identifier: string;
  readonly slot: number;
  readonly frames: number;
  readonly bytes: number;
  /** Bytes of encoded sound alone. */
  readonly soundBytes: number;
  readonly sampleRate: number;
  /** With three decimals. */
  readonly seconds: string;
}

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
  };
}

/** A name as a cell of a table: one line, and nothing that a spreadsheet takes for a formula, which begins with such a sign. */
const safeCell = (name: string): string => oneLine(name).replace(/^(?=[=+\-@])/, ' ');

/** The rows of a set, in the order of its slots. */
export const listRows = (target: Pick<Target, 'slots'>, files: readonly Listed[]): ListRow[] =>
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

/** The sounds of a set as texts that stand in one file. */
export interface JoinedSounds {
  readonly contents: readonly string[];
  /** What stands between them. */
  readonly joint: string;
}

/** What stands between the sounds where the sheet wants all of them in its list file; null where each has its own file. */
export function jointOf(
  { listFile }: Pick<Target, 'listFile'>,
  files: readonly { readonly facts: { readonly container: string } }[],
): string | null {
  if (!listFile?.holdsSounds) return null;
  const joints = new Set(files.map(({ facts }) => findOutContainer(facts.container)?.joint));
  return joints.size === 1 ? ([...joints][0] ?? null) : null;
}

/**
 * The text of a list file: header, the sounds themselves where they are in it, index, one row for each file, footer;
 * every line ends with a line feed.
 */
export function listFileText(listFile: ListFile, rows: readonly ListRow[], sounds: JoinedSounds | null = null): string {
  const lines = [
    ...(listFile.header ? [listFile.header] : []),
    ...(sounds ? [sounds.contents.map((text) => text.trimEnd()).join(sounds.joint)] : []),
    ...(listFile.index ? [listFile.index] : []),
    ...(listFile.row ? rows : []).map((row) =>
      listFile.row.replace(/\{(\w+)\}/g, (braces, field: string) =>
        field in row ? String(row[field as keyof ListRow]) : braces,
      ),
    ),
    ...(listFile.footer ? [listFile.footer] : []),
  ];
  return lines.map((line) => `${line}\n`).join('');
}
