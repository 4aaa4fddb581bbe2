import type * as v from 'valibot';
import { inForm, oneOf } from '../../forms/index.ts';
import { calledIn, LARGEST_LIST, type ListFile, readListFile, rowFinder } from '../../lists/index.ts';
import { formatBytes } from '../../words/index.ts';
import { type Card, folderIn, nameIn } from '../card.ts';
import type { Entry, Listing, Trait } from '../trait.ts';

const WORDS = {
  name: 'goes by names',
  list: 'goes by its list file',
  slot: 'goes by the numbers in names',
  card: 'goes by the order on the card',
} as const;

const schema = inForm(oneOf(WORDS), { label: 'It', usual: 'name' });

/** Names as most devices compare them: without regard to case, sign by sign. */
const byName = (a: Entry, b: Entry): number => {
  const [x, y] = [a, b].map(({ file }) => file.path.toLowerCase());
  return x < y ? -1 : x > y ? 1 : 0;
};

/** The number with which a name begins; undefined without one. */
const numberOf = ({ file }: Entry): number | undefined => {
  const digits = /^\d+/.exec(nameIn(file.path))?.[0];
  return digits === undefined ? undefined : Number(digits);
};

/** By numbers; a set without any is compiled in, and stands in the order in which it was written. */
function bySlot(shown: readonly Entry[]): readonly Entry[] {
  const numbered = shown.filter((entry) => numberOf(entry) !== undefined);
  return numbered.length ? numbered.toSorted((a, b) => (numberOf(a) ?? 0) - (numberOf(b) ?? 0)) : shown;
}

/** What the rows of the list files name, in their order. */
function byLists({ shown, refused }: Listing, card: Card, lists: readonly ListFile[]): Listing {
  const found: Entry[] = [];
  const missing: Listing['refused'][number][] = [];
  for (const list of lists) {
    const file = card.find(({ path }) => path === list.path);
    if (!file) continue;
    const folder = folderIn(list.path);
    const there = shown.filter((entry) => folderIn(entry.file.path) === folder);
    const entries = new Map(there.toReversed().map((entry) => [nameIn(entry.file.path), entry]));
    const fileOf = rowFinder(there.map((entry) => nameIn(entry.file.path)));
    const { rows, isTooLarge } = readListFile(file.bytes, list);
    if (isTooLarge) {
      missing.push({
        path: list.path,
        word: 'too large',
        reason: `Of ${list.path} only the first ${formatBytes(LARGEST_LIST)} were read: no device has a larger list.`,
      });
    }
    for (const row of rows) {
      const entry = entries.get(fileOf(row) ?? '');
      if (entry) found.push({ ...entry, name: row.displayName ?? entry.name });
      else {
        missing.push({ path: calledIn(row), word: 'not found', reason: `${list.path} names it, but it is not there.` });
      }
    }
  }
  return { shown: found, refused: [...refused, ...missing] };
}

/** How the device finds its sounds, and in which order. */
export const order: Trait<'order', v.InferOutput<typeof schema>> = {
  id: 'order',
  title: 'How it finds sounds',
  schema,
  words: (value) => WORDS[value],
  find(value, listing, card, lists) {
    if (value === 'list') return byLists(listing, card, lists);
    if (value === 'card') return listing;
    return { ...listing, shown: value === 'name' ? listing.shown.toSorted(byName) : bySlot(listing.shown) };
  },
};
