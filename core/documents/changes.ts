import { generateKeyBetween, generateNKeysBetween } from 'fractional-indexing';
import * as v from 'valibot';
import { notFinite } from '../audio/index.ts';
import { valuesSchema } from '../targets/index.ts';
import { InputError, shortened } from '../words/index.ts';
import { type ClipDoc, clipEntries, type JobDoc, jobEntries, MOST_CLIPS, MOST_IN_MAP, wishesSchema } from './job.ts';

/** A clip of a job that is worked on: its rank says where it stands, so that moving one changes that one alone. */
export interface RankedClip extends ClipDoc {
  /** Clips stand in the order of their ranks, compared sign by sign. */
  readonly rank: string;
}

/** A job that is worked on. */
export interface WorkingJob extends Omit<JobDoc, 'format' | 'clips'> {
  readonly clips: readonly RankedClip[];
}

/**
 * A change of a job: what is at which place after it, null if nothing is. Places are `title`, `variant`, `edition`,
 * `offered`, and an entry of a map by its key: `clips/<id>`, `values/<id>`, `wishes/<station>`, `places/<number>`, `ownLists/<key>`.
 */
export type Change = Readonly<Record<string, unknown>>;

/** Places of a job that are one value. */
const SINGLE = ['title', 'variant', 'edition', 'offered'] as const;
/** Places of a job that are maps. */
const MAPS = ['values', 'wishes', 'places', 'ownLists'] as const;

type Single = (typeof SINGLE)[number];
export type MapName = (typeof MAPS)[number];

/** The name of a place, taken apart. */
export type Place =
  | { readonly [Of in Single]: { readonly of: Of } }[Single]
  | { readonly [Of in MapName | 'clips']: { readonly of: Of; readonly key: string } }[MapName | 'clips'];

const isSingle = (of: string): of is Single => SINGLE.some((name) => name === of);
const isMap = (of: string): of is MapName => MAPS.some((name) => name === of);

/** @throws InputError with code `bad-document` if a job has no such place */
export function placeOf(name: string): Place {
  const at = name.indexOf('/');
  const [of, key] = at < 0 ? [name, ''] : [name.slice(0, at), name.slice(at + 1)];
  if (at < 0 && isSingle(of)) return { of };
  if (key !== '' && (isMap(of) || of === 'clips')) return { of, key } as Place;
  throw new InputError(
    'bad-document',
    `The change, ${shortened(name, 80)}: a job has no such place; load the page again.`,
  );
}

/** True if others can be put in front of a rank and behind it. */
function isRank(rank: string): boolean {
  try {
    generateKeyBetween(rank, null);
    return true;
  } catch {
    return false;
  }
}

const rankSchema = v.pipe(
  v.string(),
  v.maxLength(200, 'it must have 200 characters or fewer'),
  v.check(isRank, 'it is not a rank; load the page again'),
);

const rankedClip = v.strictObject({ ...clipEntries, rank: rankSchema });

const mapSchemas = {
  values: valuesSchema,
  wishes: wishesSchema,
  places: jobEntries.places,
  ownLists: jobEntries.ownLists,
} as const;

/** Places of one change: every clip and every place of a job, and what else it has. */
export const MOST_CHANGED = MOST_CLIPS + MOST_IN_MAP.places + 500;

/** True if a change has as many places as a job may have at most; it is looked at before anything else of it is. */
export function isOfFewPlaces(change: Readonly<Record<string, unknown>>): boolean {
  let count = 0;
  for (const _ in change) if (++count > MOST_CHANGED) return false;
  return true;
}

/** The schema of what may be put at a place, within what it stands in: the place's own name stays in what is refused. */
function schemaAt(place: Place): v.GenericSchema<unknown, unknown> {
  if ('key' in place) return place.of === 'clips' ? rankedClip : mapSchemas[place.of];
  return jobEntries[place.of];
}

/**
 * A change as it comes from anywhere.
 * @throws InputError with code `bad-document` naming the place and the entry that is wrong
 */
export function readChange(value: Readonly<Record<string, unknown>>): Change {
  const bad = (place: string, what: string) =>
    new InputError(
      'bad-document',
      `The change, ${shortened(place, 80)}: ${shortened(what, 300)}; correct it and try again.`,
    );
  const entries = Object.entries(value);
  if (entries.length === 0) throw bad('the whole', 'it changes nothing');
  return Object.fromEntries(
    entries.map(([name, entry]) => {
      const place = placeOf(name);
      if (entry === null && place.of !== 'title') return [name, null];
      const endless = notFinite({ entry });
      if (endless !== null) throw bad(name, `${endless} is not a number`);
      const isEntry = 'key' in place && place.of !== 'clips';
      const result = v.safeParse(schemaAt(place), isEntry ? { [place.key]: entry } : entry);
      if (!result.success) {
        const [issue] = result.issues;
        const path = (issue.path ?? []).map(({ key }) => String(key)).slice(isEntry ? 1 : 0);
        throw bad([name, ...path].join('.'), issue.message);
      }
      // Names that every object has ("__proto__") are not taken as keys.
      if (isEntry && !Object.hasOwn(result.output as object, place.key)) throw bad(name, 'a job has no such place');
      const read = isEntry ? entryOf(result.output as Readonly<Record<string, unknown>>, place.key) : result.output;
      if (place.of === 'clips' && (read as RankedClip).id !== place.key) throw bad(name, 'the clip has another id');
      return [name, read];
    }),
  );
}

/** Compares clips by where they stand. */
export const byRank = (a: RankedClip, b: RankedClip): number =>
  a.rank < b.rank ? -1 : a.rank > b.rank ? 1 : a.id < b.id ? -1 : 1;

/** The map's own entry at a key; null if there is none. Inherited names such as `toString` do not count. */
export const entryOf = (map: Readonly<Record<string, unknown>>, key: string): unknown =>
  Object.hasOwn(map, key) ? (map[key] ?? null) : null;

/** A map with some entries replaced, or removed where they are null; those come last in their order. */
export function withEntries<T>(
  map: Readonly<Record<string, T>>,
  entries: Readonly<Record<string, unknown>>,
): Readonly<Record<string, T>> {
  const kept = Object.entries(map).filter(([key]) => !Object.hasOwn(entries, key));
  const put = Object.entries(entries).filter(([, entry]) => entry !== null) as [string, T][];
  return Object.fromEntries([...kept, ...put]);
}

/** A job after a change. What was not changed is the same object as before. */
export function applyChange(job: WorkingJob, change: Change): WorkingJob {
  const clips = new Map<string, RankedClip | null>();
  const maps = new Map<MapName, Record<string, unknown>>();
  let next = job;
  for (const [name, entry] of Object.entries(change)) {
    const place = placeOf(name);
    if (!('key' in place)) next = { ...next, [place.of]: entry };
    else if (place.of === 'clips') clips.set(place.key, entry as RankedClip | null);
    else {
      const entries: Record<string, unknown> = maps.get(place.of) ?? Object.create(null);
      entries[place.key] = entry;
      maps.set(place.of, entries);
    }
  }
  for (const [of, entries] of maps)
    next = { ...next, [of]: withEntries(next[of] as Readonly<Record<string, unknown>>, entries) };
  if (clips.size === 0) return next;
  const kept = job.clips.flatMap((clip) => (clips.has(clip.id) ? (clips.get(clip.id) ?? []) : [clip]));
  const known = new Set(job.clips.map(({ id }) => id));
  const added = [...clips.values()].filter((clip) => clip !== null && !known.has(clip.id)) as RankedClip[];
  return { ...next, clips: [...kept, ...added].sort(byRank) };
}

/** Ranks for so many clips after the last of those that are there. */
export const ranksAfter = (clips: readonly Pick<RankedClip, 'rank'>[], count: number): readonly string[] =>
  generateNKeysBetween(clips.at(-1)?.rank ?? null, null, count);

/** Ranks for so many clips that are to stand, one behind the other, at a position among the others. */
export function ranksAt(
  others: readonly Pick<RankedClip, 'rank'>[],
  position: number,
  count: number,
): readonly string[] {
  const before = others[position - 1]?.rank ?? null;
  // Two that were put at the same place at the same time may have the same rank.
  const after = others.slice(position).find(({ rank }) => before === null || rank > before)?.rank ?? null;
  return generateNKeysBetween(before, after, count);
}

/** The change that removes a clip, and takes it from its places. */
export const removalOf = (job: Pick<WorkingJob, 'places'>, clipId: string): Change => ({
  [`clips/${clipId}`]: null,
  ...Object.fromEntries(
    Object.entries(job.places).flatMap(([place, id]) => (id === clipId ? [[`places/${place}`, null]] : [])),
  ),
});

/** The document of a job that is worked on. */
export function jobDocOf({ clips, ...job }: WorkingJob): JobDoc {
  return { format: 2, ...job, clips: clips.map(({ rank: _, ...clip }) => clip) };
}

/** A document as a job to be worked on. */
export function workingJobOf({ format: _, clips, ...job }: JobDoc): WorkingJob {
  const ranks = ranksAfter([], clips.length);
  return { ...job, clips: clips.map((clip, i) => ({ ...clip, rank: ranks[i] ?? '' })) };
}
