import {
  askedContainer,
  type ClipSettings,
  demandsOf,
  freePlaces,
  outContainerOf,
  type Plan,
  placeWords,
  type RankedClip,
  type SlotLine,
  settingsOf,
  soundBytesOf,
  type Target,
  type WorkingJob,
} from '@tambur/core';
import { chainOf, type SettledSet } from '../job/set.ts';

/** A line of the table: a place with the clip that plays there, or without one. */
export interface SetRow {
  readonly key: string;
  /** Of the place; counted from 1 if the device has none. */
  readonly number: number;
  /** What the place is called; null if the device has none. */
  readonly words: string | null;
  /** Its name on the device, where the sheet has one: "horn". */
  readonly label: string | null;
  readonly clip: RankedClip | null;
  /** True if the clip plays at other places too. */
  readonly isOneOfSeveral: boolean;
}

/** True if clips stand at places of the device: it has some, or goes by numbers in names. */
export const hasPlaces = (target: Target): boolean =>
  target.places !== undefined || demandsOf(target).name?.value.digits != null;

/** The lines of a set: every place that is taken or free, or the clips in their order. */
export function setRows(clips: readonly RankedClip[], { placing }: SettledSet, target: Target): readonly SetRow[] {
  if (!hasPlaces(target)) {
    return clips.map((clip, i) => ({
      key: clip.id,
      number: i + 1,
      words: null,
      label: null,
      clip,
      isOneOfSeveral: false,
    }));
  }
  const byId = new Map(clips.map((clip) => [clip.id, clip]));
  const times = new Map<string, number>();
  for (const id of placing.values()) times.set(id, (times.get(id) ?? 0) + 1);
  const taken = [...placing].map(([number, id]) => ({ number, clip: byId.get(id) ?? null }));
  const free = freePlaces(target, placing).map((number) => ({ number, clip: null }));
  return [...taken, ...free]
    .sort((a, b) => a.number - b.number)
    .map(({ number, clip }) => ({
      key: `place ${number}`,
      number,
      words: placeWords(target, number),
      label: target.places?.labels[number] ?? null,
      clip,
      isOneOfSeveral: clip !== null && (times.get(clip.id) ?? 0) > 1,
    }));
}

/** Tags that can be written by hand, in their order. */
export const TAG_NAMES = ['title', 'artist', 'album', 'comment'] as const;
export type TagName = (typeof TAG_NAMES)[number];

/** Why a set takes no tags, in a sentence; null if it does. */
export function whyNoTags(target: Target): string | null {
  const demands = demandsOf(target);
  if (demands.tags?.value === 'forbidden') return 'The sheet forbids tags.';
  const container = outContainerOf(askedContainer(demands));
  return container.holdsTags ? null : `A file of this kind (${container.title}) has no place for tags.`;
}

/** Tags that a file will have. */
export const tagsIn = ({ tags }: Plan<'wrap'>): Readonly<Partial<Record<string, string>>> =>
  Object.fromEntries(tags.map(({ name, value }) => [name, value]));

/** Settings with one tag written by hand; the others stay what they are now. */
function withTag(settings: ClipSettings, plan: Plan<'wrap'>, tag: TagName, value: string): Partial<ClipSettings> {
  const now = tagsIn(plan);
  const tags = Object.fromEntries(TAG_NAMES.map((name) => [name, name === tag ? value : (now[name] ?? '')]));
  return { wrap: { ...(settings.wrap === 'automatic' ? {} : settings.wrap), tags } };
}

/** What a clip's file at a line is called; null if none can be made. */
export function fileAt({ clip, number }: SetRow, set: SettledSet): string | null {
  const chain = clip && chainOf(set.settled.get(clip.id));
  if (!clip || !chain) return null;
  const { fileName } = chain;
  const files = set.files.get(clip.id) ?? [];
  const own = files.length > 1 ? files.find(({ slots }) => slots.includes(number)) : files[0];
  return own ? own.stem + fileName.slice(fileName.lastIndexOf('.')) : fileName;
}

/** What plays where, to be printed or saved: of the clips that can be made. */
export const slotLines = (rows: readonly SetRow[], set: SettledSet): readonly SlotLine[] =>
  rows.flatMap((row) => {
    const chain = row.clip && chainOf(set.settled.get(row.clip.id));
    if (!row.clip || !chain) return [];
    return [
      {
        number: row.number,
        sound: row.clip.name,
        file: fileAt(row, set) ?? '',
        seconds: set.seconds.get(row.clip.id) ?? 0,
        bytes: soundBytesOf(chain),
      },
    ];
  });

/** What a tag written by hand changes in the settings of clips, by their ids; clips that cannot be made are left alone. */
export const tagChanges = (
  clips: readonly RankedClip[],
  set: SettledSet,
  job: Pick<WorkingJob, 'wishes'>,
  tag: TagName,
  value: string,
): ReadonlyMap<string, Partial<ClipSettings>> =>
  new Map(
    clips.flatMap((clip) => {
      const plan = chainOf(set.settled.get(clip.id))?.stations.wrap.plan;
      return plan ? [[clip.id, withTag(settingsOf(clip, job), plan, tag, value)] as const] : [];
    }),
  );
