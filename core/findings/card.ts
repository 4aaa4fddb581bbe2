import { soundsIn } from '../containers/index.ts';
import type { Facts } from '../facts/index.ts';
import { calledIn, LARGEST_LIST, type ListFile, type ReadRow, readListFile, rowFinder } from '../lists/index.ts';
import { type Card, type CardFile, folderIn, isHidden, nameIn } from '../standin/index.ts';
import type { Target } from '../targets/index.ts';
import { formatBytes, formatCount, InputError, shortened } from '../words/index.ts';
import { checkFile, checkSet, type Finding } from './check.ts';

/** What a file of a card is, and what was found of it. */
export interface CheckedFile {
  readonly path: string;
  /** A sound; the list that the device reads; all sounds in one file; or whatever else lies there. */
  readonly role: 'sound' | 'list' | 'pack' | 'other';
  /** Of a sound. */
  readonly facts?: Facts;
  /** Why it could not be read, in a sentence. */
  readonly refused?: string;
  readonly findings: readonly Finding[];
}

export interface CheckedCard {
  readonly files: readonly CheckedFile[];
  /** On all sounds together. */
  readonly set: readonly Finding[];
}

interface CardOptions {
  /** What a file is as the device reads it. */
  readonly read: (file: CardFile) => Promise<Facts>;
  /** True if these are all files of a card, in their folders; false for files from anywhere. */
  readonly isWhole: boolean;
  /** Told after each file how many have been read. */
  readonly onRead: (count: number) => void;
}

/** A file of the sheet's own: by its path on a card, by its name elsewhere. */
const isAt = (file: CardFile, { path }: { readonly path: string }, isWhole: boolean): boolean =>
  isWhole ? file.path === path : nameIn(file.path) === nameIn(path);

/** What a list states of a sound and the sound is not. */
function wrongFigures(row: ReadRow, facts: Facts): string[] {
  const { frames, bytes, sampleRate } = facts;
  const has = { frames, bytes, sampleRate, soundBytes: facts.soundBytes ?? bytes };
  return Object.entries(has).flatMap(([field, value]) => {
    const stated = row[field as keyof typeof has];
    return stated === undefined || Number(stated) === value
      ? []
      : [`the list gives ${calledIn(row)} ${shortened(stated, 20)} ${field}, but it has ${formatCount(value)}`];
  });
}

const rowsOf = (count: number) => `${formatCount(count)} ${count === 1 ? 'row' : 'rows'}`;
const SHOWN = 3;
const some = (names: readonly string[]) =>
  names.slice(0, SHOWN).join(', ') + (names.length > SHOWN ? ` and ${names.length - SHOWN} more` : '');

/** A list file against the sounds that are there. */
function checkList(list: ListFile, file: CardFile, sounds: readonly CheckedFile[], isWhole: boolean): Finding {
  const { rows, strange, isTooLarge } = readListFile(file.bytes, list);
  const folder = folderIn(file.path);
  const there = sounds.filter(({ path }) => !isWhole || folderIn(path) === folder || list.row.includes('{identifier}'));
  const names = there.map(({ path }) => nameIn(path));
  const fileOf = rowFinder(names);
  const named = rows.map((row) => ({ row, name: fileOf(row) }));
  const listed = new Set(named.map(({ name }) => name));
  const factsOf = new Map(there.map(({ path, facts }) => [nameIn(path), facts]));
  const missing = isWhole ? named.flatMap(({ row, name }) => (name === undefined ? [calledIn(row)] : [])) : [];
  const unlisted = isWhole ? names.filter((name) => !listed.has(name)) : [];
  const wrong = named.flatMap(({ row, name }) => {
    const facts = factsOf.get(name ?? '');
    return facts ? wrongFigures(row, facts) : [];
  });
  const faults = [
    ...(isTooLarge ? [`larger than ${formatBytes(LARGEST_LIST)}: no more was read`] : []),
    ...(missing.length ? [`without a file: ${some(missing)}`] : []),
    ...(unlisted.length ? [`not listed: ${some(unlisted)}`] : []),
    ...(wrong.length ? [some(wrong)] : []),
    ...strange.slice(0, 1).map(({ line, text }) => `line ${line} is not a row: ${shortened(text, 60)}`),
    ...(rows.length === 0 ? ['no sound in it'] : []),
  ];
  const verdict = faults.length ? 'breaks' : isWhole ? 'meets' : 'unknown';
  return {
    key: list.key,
    requirement: 'list-file',
    title: 'list file',
    verdict,
    wanted: 'a row for each sound',
    found: [rowsOf(rows.length), ...faults].join('; '),
    mend: faults.length ? `build the set with Tambur, which writes ${list.path}` : '',
  };
}

/** Reads something; gives the sentence where it cannot be used. */
async function orRefused<T>(read: () => Promise<T>): Promise<T | string> {
  try {
    return await read();
  } catch (error) {
    if (error instanceof InputError) return error.message;
    throw error;
  }
}

/**
 * Files against a sheet, each as what it is: a list file is read as the device reads it, a file of all sounds sound by
 * sound, and every other one as a sound.
 */
export async function checkCard(
  target: Target,
  card: Card,
  { read, isWhole, onRead }: CardOptions,
): Promise<CheckedCard> {
  const listOf = (file: CardFile) => target.lists.find((list) => isAt(file, list, isWhole));
  const isPack = (file: CardFile) => target.packs.some((pack) => isAt(file, pack, isWhole));
  const members: Facts[] = [];

  const soundAt = async (file: CardFile): Promise<CheckedFile> => {
    const facts = await orRefused(() => read(file));
    if (typeof facts === 'string') return { path: file.path, role: 'sound', refused: facts, findings: [] };
    members.push(facts);
    const where = isWhole ? { folder: folderIn(file.path) } : {};
    return { path: file.path, role: 'sound', facts, findings: checkFile(target, facts, nameIn(file.path), where) };
  };
  const packAt = async (file: CardFile): Promise<CheckedFile> => {
    const findings: Finding[] = [];
    const { path } = file;
    for (const [i, bytes] of soundsIn(file.bytes).entries()) {
      const { refused, findings: found } = await soundAt({ path, bytes });
      if (refused !== undefined) return { path, role: 'pack', refused: `Sound ${i + 1} in it: ${refused}`, findings };
      findings.push(...found.map((finding) => ({ ...finding, title: `sound ${i + 1}: ${finding.title}` })));
    }
    return findings.length
      ? { path, role: 'pack', findings }
      : { path, role: 'pack', refused: 'It holds no sound that Tambur can read; build it again.', findings };
  };

  const files = new Map<CardFile, CheckedFile>();
  for (const file of card) {
    if (listOf(file)) continue;
    const isOther = isWhole && isHidden(file.path);
    const other: CheckedFile = { path: file.path, role: 'other', findings: [] };
    files.set(file, isOther ? other : await (isPack(file) ? packAt(file) : soundAt(file)));
    onRead(files.size);
  }
  const sounds = [...files.values()].filter(({ role }) => role === 'sound');
  for (const file of card) {
    const list = listOf(file);
    if (!list) continue;
    files.set(file, { path: file.path, role: 'list', findings: [checkList(list, file, sounds, isWhole)] });
    onRead(files.size);
  }
  const inOrder = card.flatMap((file) => files.get(file) ?? []);
  const others = inOrder.filter(({ role }) => role !== 'sound').map(({ path }) => nameIn(path));
  return { files: inOrder, set: checkSet(target, isWhole ? { members, others } : { members }) };
}
