import {
  describeFacts,
  type Facts,
  findCompressed,
  findEncoding,
  foreignContainers,
  foreignEncodings,
  remarksOn,
} from '@tambur/core';
import type { ShelfView } from '@tambur/server';

/** Groups of files that a practitioner tells apart. */
export type Kind = 'plain' | 'lossless' | 'lossy' | 'video' | 'bare';

export const kinds: readonly { readonly value: Kind | 'all' | 'remarked' | 'unused'; readonly label: string }[] = [
  { value: 'all', label: 'All sources' },
  { value: 'plain', label: 'Plain samples' },
  { value: 'lossless', label: 'Lossless' },
  { value: 'lossy', label: 'Lossy' },
  { value: 'video', label: 'From video' },
  { value: 'bare', label: 'Headerless' },
  { value: 'remarked', label: 'With remarks' },
  { value: 'unused', label: 'In no job' },
];

export function kindOf({ container, encoding, certainty }: Facts): Kind {
  if (certainty === 'assumed') return 'bare';
  if (foreignContainers.find(({ id }) => id === container)?.holdsPictures) return 'video';
  const plain = findEncoding(encoding);
  if (plain) return plain.kind === 'block' && plain.companded ? 'lossy' : 'plain';
  const isLossless = findCompressed(encoding)?.depths ?? foreignEncodings.find(({ id }) => id === encoding)?.isLossless;
  return isLossless ? 'lossless' : 'lossy';
}

const texts = new WeakMap<ShelfView, string>();

/** Everything of a source that can be searched for: its name, its tags, its facts in words, its jobs. */
function searchText(source: ShelfView): string {
  const known = texts.get(source);
  if (known !== undefined) return known;
  const text = [
    source.name,
    ...describeFacts(source.facts, source.name).map(({ label, value }) => `${label} ${value}`),
    ...source.usedBy.map(({ title }) => title),
  ]
    .join('\n')
    .toLowerCase()
    // Figures are found with and without their thin spaces.
    .replace(/\u202f/g, '');
  texts.set(source, text);
  return text;
}

/** The sources that belong to the kind and contain every word of the search. */
export function filterShelf(
  sources: readonly ShelfView[],
  search: string,
  kind: (typeof kinds)[number]['value'],
): readonly ShelfView[] {
  const words = search
    .toLowerCase()
    .replace(/\u202f/g, '')
    .split(/\s+/)
    .filter(Boolean);
  return sources.filter((source) => {
    const isOfKind =
      kind === 'all' ||
      (kind === 'unused' && source.usedBy.length === 0) ||
      (kind === 'remarked' && remarksOn(source.facts, source.name).length > 0) ||
      kind === kindOf(source.facts);
    return isOfKind && words.every((word) => searchText(source).includes(word));
  });
}
