import * as v from 'valibot';
import { automaticSettings, type ClipSettings, type StationId, stations, type Wish } from '../chain/index.ts';
import { doubled } from '../forms/index.ts';
import { FORMAT, MOST_VALUES, pathTo, valuesSchema } from '../targets/index.ts';
import { oneLine } from '../words/index.ts';

/** Longest name of a clip, longest title of a job. */
export const LONGEST_NAME = 120;

/** A job has so many clips at most. */
export const MOST_CLIPS = 1000;

/** Entries of a job's maps: a clip may be at several places. */
export const MOST_IN_MAP = { values: MOST_VALUES, places: 10_000, ownLists: 100 } as const;

const atMost = (name: keyof typeof MOST_IN_MAP) =>
  v.maxEntries<Readonly<Record<string, string>>, number, string>(
    MOST_IN_MAP[name],
    `it must have ${MOST_IN_MAP[name]} entries or fewer`,
  );

const named = (what: string) =>
  v.pipe(v.string(), v.transform(oneLine), v.trim(), v.nonEmpty(`a ${what} needs a name`), v.maxLength(LONGEST_NAME));

/** Settings by hand for each station except Cut, which belongs to a piece of a source. */
export type Wishes = { readonly [Id in Exclude<StationId, 'cut'>]?: 'automatic' | Wish<Id> | undefined };

const { cut, ...beyondCut } = stations;

/**
 * Wishes by station. A station that is not named does in a clip what the job says, and in a job what the sheet and the
 * source come to; `automatic` says the latter in either.
 */
export const wishesSchema = v.strictObject(
  Object.fromEntries(
    Object.entries(beyondCut).map(([id, { wish }]) => [
      id,
      v.optional(v.union([v.literal('automatic'), wish as v.GenericSchema<unknown>])),
    ]),
  ),
) as unknown as v.GenericSchema<Wishes>;

/** An id; in a job that is written by hand the path of a file. */
const reference = v.pipe(v.string(), v.nonEmpty(), v.maxLength(200, 'it must have 200 characters or fewer'));

const pieceSchema = v.strictObject({
  source: reference,
  /** Frames of the source; all of it if there is none. */
  cut: v.optional(cut.wish),
  /** Silence after it, before the next piece. */
  gapMs: v.pipe(v.number(), v.minValue(0), v.maxValue(60_000)),
});

export const clipEntries = {
  id: v.pipe(v.string(), v.uuid('an id is a UUID')),
  /** For people; its file is named after it. It stands in list files, so it is one line. */
  name: named('clip'),
  /** Tags of the finished file; left out: as Wrap has it. */
  tags: v.optional(valuesSchema),
  wishes: wishesSchema,
  /** Fill the sheet's blanks of the level `clip`. */
  values: valuesSchema,
  pieces: v.pipe(v.array(pieceSchema), v.length(1, 'a clip has one piece')),
};

export const clipSchema = v.strictObject(clipEntries);

const edition = v.nullish(v.pipe(v.number(), v.integer(), v.minValue(1), v.maxValue(1_000_000)));

const place = v.pipe(v.string(), v.regex(/^\d{1,6}$/, 'a place is named by its number'));
const sha256 = v.pipe(v.string(), v.regex(/^[0-9a-f]{64}$/, 'a SHA-256 has 64 hexadecimal digits'));

/** The entries of a job, but for its clips. */
export const jobEntries = {
  title: named('job'),
  sheet: reference,
  /** Variant of the sheet; null for the sheet itself. */
  variant: v.nullable(reference),
  /** Edition of a sheet that ships, for which it is made; not that of the user's own sheets. */
  edition,
  /** The newest edition that was offered to it, if that is not the one it has. */
  offered: edition,
  /** Fill the sheet's blanks of the level `job`. */
  values: valuesSchema,
  /** For all clips. */
  wishes: wishesSchema,
  /** Which clip is at which place; if there is none, the order of the clips counts. */
  places: v.pipe(v.record(place, reference), atMost('places')),
  /** The device's own list files, by the keys of the sheet's: the SHA-256 of each. */
  ownLists: v.pipe(v.record(reference, sha256), atMost('ownLists')),
};

export const jobSchema = v.pipe(
  v.strictObject({
    format: v.literal(FORMAT),
    ...jobEntries,
    clips: v.pipe(v.array(clipSchema), v.maxLength(MOST_CLIPS, 'a job has at most 1 000 clips')),
  }),
  v.rawCheck(({ dataset, addIssue }) => {
    if (!dataset.typed || dataset.issues) return;
    const { clips, places } = dataset.value;
    const ids = clips.map(({ id }) => id);
    const twice = doubled(ids);
    if (twice !== undefined) {
      addIssue({ message: `two clips have the id ${twice}`, path: pathTo('clips', ids.lastIndexOf(twice), 'id') });
    }
    const known = new Set(ids);
    const stray = Object.entries(places).find(([, id]) => !known.has(id));
    if (stray) addIssue({ message: 'no clip has that id', path: pathTo('places', stray[0]) });
  }),
);

/** A clip as a job holds it. */
export type ClipDoc = v.InferOutput<typeof clipSchema>;
/** What is made for a device: its sheet, clips, and what is wished for all of them. */
export type JobDoc = v.InferOutput<typeof jobSchema>;

/** A job with nothing set. */
export const EMPTY_JOB = {
  values: {},
  wishes: {},
  places: {},
  ownLists: {},
} as const satisfies Partial<JobDoc>;

/** A clip of a source, or of a piece of it, with nothing wished. */
export const newClip = (id: string, name: string, source: string, cut?: Wish<'cut'>): ClipDoc => ({
  id,
  name: name.slice(0, LONGEST_NAME),
  wishes: {},
  values: {},
  pieces: [{ source, ...(cut ? { cut } : {}), gapMs: 0 }],
});

/** A clip's settings for the chain: its own wishes first, then those of its job. */
export function settingsOf({ name, wishes, pieces: [piece] }: ClipDoc, job: Pick<JobDoc, 'wishes'>): ClipSettings {
  const merged = { ...automaticSettings(name), ...job.wishes, ...wishes, ...(piece?.cut ? { cut: piece.cut } : {}) };
  return merged as ClipSettings;
}

/** Id of the source that a clip is made of. */
export const sourceOf = ({ pieces: [piece] }: Pick<ClipDoc, 'pieces'>): string => piece?.source ?? '';

/**
 * A clip with other settings. What becomes automatic is wished no more: it goes by the job again, and where that wishes
 * something else, the clip says that it does not.
 */
export function withSettings(
  clip: ClipDoc,
  { name = clip.name, cut, ...stations }: Partial<ClipSettings>,
  forAll: Wishes = {},
): ClipDoc {
  const needed = (id: string, wish: unknown) => wish !== 'automatic' || (forAll[id as keyof Wishes] ?? wish) !== wish;
  const wishes = Object.entries({ ...clip.wishes, ...stations }).filter(([id, wish]) => needed(id, wish));
  const pieces = clip.pieces.map(({ cut: old, ...piece }) => {
    const next = cut === undefined ? old : cut === 'automatic' ? undefined : cut;
    return { ...piece, ...(next ? { cut: next } : {}) };
  });
  return { ...clip, name, wishes: Object.fromEntries(wishes), pieces };
}

/** A clip without a wish of its own at a station: it goes by the job. */
export function withoutWish<Clip extends ClipDoc>(clip: Clip, station: keyof Wishes): Clip {
  const { [station]: _, ...wishes } = clip.wishes;
  return { ...clip, wishes };
}
