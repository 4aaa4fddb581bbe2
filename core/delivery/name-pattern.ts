import type { Tag } from '../containers/index.ts';
import { oneLine } from '../words/index.ts';

/** Parts of which a name can be made. */
export interface NameParts {
  readonly tags: readonly Tag[];
  /** Of the source's file, without its extension. */
  readonly file: string;
  /** Of the clip in its set, from 1. */
  readonly number: number;
}

/** Tags by what a pattern calls them; files call them differently. */
const TAGS: Readonly<Record<string, readonly string[]>> = {
  track: ['tracknumber', 'track'],
  title: ['title'],
  artist: ['artist'],
  album: ['album'],
  date: ['date', 'year'],
  comment: ['comment'],
};

/** Every field that a pattern can have. */
export const NAME_FIELDS = [...Object.keys(TAGS), 'file', 'number'] as const;

/**
 * A name made from a pattern such as `{track} {title}`. A missing tag takes the hyphens and commas around it along;
 * numbers of tracks have two digits, so that they sort. Empty if all of its fields are missing.
 */
export function nameByPattern(pattern: string, { tags, file, number }: NameParts): string {
  const known = new Map(tags.map(({ name, value }) => [name.toLowerCase(), value]));
  let isAnything = false;
  const text = pattern.replace(/\{(\w+)\}/g, (whole, field: string) => {
    const value =
      field === 'file'
        ? file
        : field === 'number'
          ? String(number)
          : TAGS[field]?.map((tag) => known.get(tag)).find(Boolean);
    if (value === undefined) return TAGS[field] ? '\0' : whole;
    isAnything = true;
    return field === 'track' || field === 'number' ? (/^\d+/.exec(value)?.[0].padStart(2, '0') ?? value) : value;
  });
  if (!isAnything) return '';
  // What is missing takes what joins it to the rest along.
  const joined = text.replace(/[\s,;:–_-]*\0/g, '').replace(/^[\s,;:–_-]+|[\s,;:–_-]+$/g, '');
  return oneLine(joined).replace(/\s+/g, ' ').trim();
}
