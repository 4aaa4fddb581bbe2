import {
  type ByteFile,
  type CardFile,
  type CheckedCard,
  cardOfZip,
  checkCard,
  InputError,
  inMemory,
  isZip,
  nameIn,
  type Target,
  wholeOf,
} from '@tambur/core';
import { inspect } from '../sound/inspect.ts';

/** A file that was dropped, and where it lay. */
interface GivenFile {
  /** From the top of the card; its name where it came from anywhere. */
  readonly path: string;
  readonly file: File;
}

/** What was dropped at once: files from anywhere, or a card. */
export interface DroppedFiles {
  readonly id: string;
  /** Of a card: the folder or the ZIP that it came from. */
  readonly title: string | null;
  readonly files: readonly GivenFile[];
}

/** Where a dropped file lay, as the browser tells: "/stick/sounds/bell.wav"; its name alone outside a folder. */
const whereOf = (file: File & { readonly path?: string }): readonly string[] =>
  (file.path ?? file.name).split('/').filter((name) => name !== '' && name !== '.');

const given = (title: string | null, files: readonly GivenFile[]): DroppedFiles => ({
  id: crypto.randomUUID(),
  title,
  files,
});

/** A ZIP as a card; null for any other file. */
async function cardIn(file: File): Promise<DroppedFiles | null> {
  if (!isZip(new Uint8Array(await file.slice(0, 4).arrayBuffer()))) return null;
  const card = cardOfZip(new Uint8Array(await file.arrayBuffer()), file.name);
  const files = card.map(({ path, bytes }) => ({
    path,
    file: new File([new Uint8Array(wholeOf(bytes))], nameIn(path)),
  }));
  return given(file.name, files);
}

/**
 * What was dropped, as cards and files: a folder is a card, a ZIP is one, and other files stay together.
 * @throws InputError if a ZIP is damaged
 */
export async function givenIn(dropped: readonly File[]): Promise<readonly DroppedFiles[]> {
  const folders = new Map<string, GivenFile[]>();
  const loose: GivenFile[] = [];
  const cards: DroppedFiles[] = [];
  for (const file of dropped) {
    const [top = file.name, ...rest] = whereOf(file);
    const zip = rest.length === 0 ? await cardIn(file) : null;
    if (zip) cards.push(zip);
    else if (rest.length === 0) loose.push({ path: file.name, file });
    else folders.set(top, [...(folders.get(top) ?? []), { path: rest.join('/'), file }]);
  }
  return [
    ...[...folders].map(([title, files]) => given(title, files)),
    ...cards,
    ...(loose.length ? [given(null, loose)] : []),
  ];
}

/** Stands for bytes that nobody reads here. */
const ELSEWHERE: ByteFile = { size: 0, read: () => new Uint8Array(0) };

/**
 * Checks what was dropped against a sheet, each file as what it is.
 * @param onRead is told how many files have been read
 * @throws the signal's reason where that is not wanted any more
 */
export async function checkGiven(
  { title, files }: DroppedFiles,
  target: Target,
  onRead: (count: number) => void,
  signal: AbortSignal,
): Promise<CheckedCard> {
  // Lists and files of all sounds are read here; sounds by whoever has their decoder.
  const own = new Set([...target.lists, ...target.packs].map(({ path }) => nameIn(path)));
  const card: readonly CardFile[] = await Promise.all(
    files.map(async ({ path, file }) => ({
      path,
      bytes: own.has(nameIn(path)) ? inMemory(new Uint8Array(await file.arrayBuffer())) : ELSEWHERE,
    })),
  );
  const fileAt = new Map(files.map(({ path, file }) => [path, file]));
  return checkCard(target, card, {
    isWhole: title !== null,
    onRead,
    async read({ path, bytes }) {
      signal.throwIfAborted();
      const file = fileAt.get(path);
      const whole = bytes === ELSEWHERE && file ? file : new File([new Uint8Array(wholeOf(bytes))], nameIn(path));
      const answer = await inspect(whole, target, signal);
      if ('facts' in answer) return answer.facts;
      throw new InputError('cannot-read', answer.refused);
    },
  });
}
