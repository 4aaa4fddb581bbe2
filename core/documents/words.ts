import { type StationId, stations } from '../chain/index.ts';
import { formatCount } from '../words/index.ts';
import { type Change, placeOf, type RankedClip } from './changes.ts';
import { sourceOf } from './job.ts';

/** A clip, or how many of them. */
function clipsInWords(names: readonly string[]): string {
  const [only] = names;
  return names.length === 1 && only !== undefined ? only : `${formatCount(names.length)} clips`;
}

const small = (title: string) => title.toLowerCase();
const isSame = (a: unknown, b: unknown) => JSON.stringify(a) === JSON.stringify(b);

/** What is different at a clip, in words. */
function differences(was: RankedClip | null, is: RankedClip | null): string[] {
  if (!was) return is ? ['added'] : [];
  if (!is) return ['removed'];
  const wishes = [...new Set([...Object.keys(was.wishes), ...Object.keys(is.wishes)])] as (keyof typeof is.wishes)[];
  return [
    ...(was.name === is.name ? [] : [`renamed from ${was.name}`]),
    ...(isSame(was.pieces, is.pieces) ? [] : [sourceOf(was) === sourceOf(is) ? 'cut' : 'another sound']),
    ...wishes.filter((id) => !isSame(was.wishes[id], is.wishes[id])).map((id) => small(stations[id].title)),
    ...(isSame(was.tags, is.tags) ? [] : ['tags']),
    ...(isSame(was.values, is.values) ? [] : ['values']),
    ...(was.rank === is.rank ? [] : ['moved']),
  ];
}

/**
 * What a change does, in a few words: "Gate buzzer: cut", "8 clips: level".
 * @param was what was at its places before
 */
export function wordsOfChange(is: Change, was: Change): string {
  /** Names of clips by what is different at them. */
  const byDifference = new Map<string, string[]>();
  const others: string[] = [];
  for (const name of Object.keys(is)) {
    const place = placeOf(name);
    if (place.of === 'clips') {
      const [before, after] = [was[name], is[name]] as (RankedClip | null)[];
      const words = differences(before ?? null, after ?? null).join(', ');
      if (words) byDifference.set(words, [...(byDifference.get(words) ?? []), (after ?? before)?.name ?? '']);
    } else if (place.of === 'title') others.push(`title: ${is[name]}`);
    else if (place.of === 'variant') others.push('another variant');
    else if (place.of === 'edition') others.push(`edition ${is[name] ?? 'as it ships'} of the sheet`);
    else if (place.of === 'offered')
      others.push(is[name] === null ? 'its edition is in question again' : `edition ${is[name]} not taken`);
    else if (place.of === 'wishes') others.push(`${small(stations[place.key as StationId].title)} of all clips`);
    else if (place.of === 'values') others.push(`${place.key}: ${is[name] ?? 'as the sheet has it'}`);
    else if (place.of === 'places') others.push(`place ${place.key}`);
    else others.push(`list file ${place.key}`);
  }
  const ofClips = [...byDifference].map(([words, names]) => `${clipsInWords(names)}: ${words}`);
  return [...others, ...ofClips].join('; ') || 'nothing';
}
