import type { Finding } from '../findings/index.ts';
import { demandsOf, type Target } from '../targets/index.ts';
import { formatCount } from '../words/index.ts';
import { type Naming, stemsOf } from './names.ts';

type WithPlaces = Pick<Target, 'places'>;

/** What plays at which place: the clip's id by the place's number, in the order of the numbers. */
export type Placing = ReadonlyMap<number, string>;

/** Number of the first place, whether or not the sheet names any. */
const firstOf = ({ places }: WithPlaces): number => places?.first ?? 0;

/** What a place is called: "button 4, horn"; null if the sheet names no places. */
export function placeWords({ places }: WithPlaces, number: number): string | null {
  if (!places) return null;
  const label = places.labels[number];
  return `${places.words[0]} ${number}${label ? `, ${label}` : ''}`;
}

/** True if the device has such a place, as far as its sheet says. */
export const isPlace = ({ places }: WithPlaces, number: number): boolean =>
  number >= firstOf({ places }) && number < firstOf({ places }) + (places?.count ?? Number.POSITIVE_INFINITY);

/**
 * Which clip plays at which place. What was assigned stays where it is; every other clip takes the first place that is
 * free, in the order of the clips, so that without assignment the order counts.
 * @param assigned clips' ids by numbers of places
 */
export function placing(
  clips: readonly { readonly id: string }[],
  assigned: Readonly<Record<string, string>>,
  target: WithPlaces,
): Placing {
  const ids = new Set(clips.map(({ id }) => id));
  const placed = new Map(
    Object.entries(assigned).flatMap(([number, id]) => (ids.has(id) ? [[Number(number), id] as const] : [])),
  );
  const known = new Set(placed.values());
  let next = firstOf(target);
  for (const { id } of clips) {
    if (known.has(id)) continue;
    while (placed.has(next)) next++;
    placed.set(next, id);
  }
  return new Map([...placed].sort(([a], [b]) => a - b));
}

/** A device with at most so many places shows all of them; of one with more, that many free ones at most are shown. */
const MOST_SHOWN = 32;

/** Free places to show: all of a device with a few; of others those between what is taken, and the next one. */
export function freePlaces(target: WithPlaces, placed: Placing): readonly number[] {
  const first = firstOf(target);
  const count = target.places?.count ?? Number.POSITIVE_INFINITY;
  const next = Math.max(first - 1, ...placed.keys()) + 2;
  const end = count <= MOST_SHOWN ? first + count : Math.min(first + count, next);
  const free: number[] = [];
  for (let number = first; number < end && free.length < MOST_SHOWN; number++) {
    if (!placed.has(number)) free.push(number);
  }
  return free;
}

/** Changes of `places/…`: what is at which place after it, null if nothing is. */
export type PlaceChange = Readonly<Record<string, string | null>>;

/** The change that makes an assignment of what is placed now, so that only what is moved afterwards moves. */
function pinned(placed: Placing, assigned: Readonly<Record<string, string>>): Map<number, string | null> {
  const now = new Map<number, string | null>(Object.keys(assigned).map((number) => [Number(number), null]));
  for (const [number, id] of placed) now.set(number, id);
  return now;
}

function changeOf(next: ReadonlyMap<number, string | null>, assigned: Readonly<Record<string, string>>): PlaceChange {
  const entries = [...next].filter(([number, id]) => (assigned[number] ?? null) !== id);
  return Object.fromEntries(entries.map(([number, id]) => [`places/${number}`, id]));
}

/** What is at one place goes to another, and what is there comes in its stead; everything else stays where it is. */
export function movedPlace(
  placed: Placing,
  assigned: Readonly<Record<string, string>>,
  from: number,
  to: number,
): PlaceChange {
  const next = pinned(placed, assigned);
  next.set(to, placed.get(from) ?? null);
  next.set(from, placed.get(to) ?? null);
  return changeOf(next, assigned);
}

/** A clip plays at one more place; what was there loses it, and takes a free one if it has no other. */
export function addedPlace(
  placed: Placing,
  assigned: Readonly<Record<string, string>>,
  clip: string,
  to: number,
): PlaceChange {
  return changeOf(pinned(placed, assigned).set(to, clip), assigned);
}

/** Nothing plays at a place any more: for a clip that has others. */
export function clearedPlace(placed: Placing, assigned: Readonly<Record<string, string>>, at: number): PlaceChange {
  return changeOf(pinned(placed, assigned).set(at, null), assigned);
}

/** Every assignment is taken back: the order of the clips counts again. */
export const clearedPlaces = (assigned: Readonly<Record<string, string>>): PlaceChange =>
  Object.fromEntries(Object.keys(assigned).map((number) => [`places/${number}`, null]));

/** A file that a set is to have. */
export interface PlannedFile {
  /** Id of its clip, and its number in the job. */
  readonly clip: string;
  readonly index: number;
  /** Numbers of the places that it plays at, the first one first. */
  readonly slots: readonly number[];
  readonly stem: string;
}

/** The files of a set in the order of their places. Where files are named by number, a clip has one for each of its places. */
export function plannedFiles(
  clips: readonly { readonly id: string; readonly name: string }[],
  assigned: Readonly<Record<string, string>>,
  target: Naming,
): readonly PlannedFile[] {
  const placed = placing(clips, assigned, target);
  const indices = new Map(clips.map(({ id }, index) => [id, index]));
  const { digits, anyOf = null } = demandsOf(target).name?.value ?? {};
  /** Names by places; undefined where there is none for a place. */
  const nameAt = (number: number) => anyOf?.[number - firstOf(target)]?.replace(/\.[^.]*$/, '');
  if (digits || anyOf) {
    return [...placed].map(([number, clip]) => ({
      clip,
      index: indices.get(clip) ?? 0,
      slots: [number],
      stem: nameAt(number) ?? String(number).padStart(digits ?? 0, '0'),
    }));
  }
  const stems = stemsOf(
    clips.map(({ name }) => name),
    target,
  );
  const slots = new Map<string, number[]>();
  for (const [number, id] of placed) slots.set(id, [...(slots.get(id) ?? []), number]);
  return [...slots].map(([clip, numbers]) => {
    const index = indices.get(clip) ?? 0;
    return { clip, index, slots: numbers, stem: stems[index] ?? 'clip' };
  });
}

/** The files of each clip, the first one first. */
export function filesByClip(files: readonly PlannedFile[]): ReadonlyMap<string, readonly PlannedFile[]> {
  const byClip = new Map<string, PlannedFile[]>();
  for (const file of files) {
    const own = byClip.get(file.clip);
    if (own) own.push(file);
    else byClip.set(file.clip, [file]);
  }
  return byClip;
}

/** What is wrong with the places of a set: numbers that the device does not have. Nothing if all are there. */
export function checkPlaces(target: WithPlaces, numbers: Iterable<number>): Finding[] {
  const { places } = target;
  const stray = [...numbers].filter((number) => !isPlace(target, number));
  if (!places?.count || stray.length === 0) return [];
  const [word = 'place'] = places.words;
  const last = places.first + places.count - 1;
  return [
    {
      key: 'places',
      requirement: 'places',
      title: 'places',
      verdict: 'breaks',
      wanted: `${word} ${formatCount(places.first)} to ${formatCount(last)}`,
      found: `${word} ${stray.slice(0, 3).map(formatCount).join(', ')}${stray.length > 3 ? ` and ${formatCount(stray.length - 3)} more` : ''}`,
      mend: 'move these clips to free places, or remove clips',
    },
  ];
}
