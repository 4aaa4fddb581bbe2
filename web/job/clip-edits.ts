import { byRank, type ClipDoc, LONGEST_NAME, type RankedClip, ranksAt, withSettings } from '@tambur/core';

/** "cabin-voice_2.flac" becomes "Cabin voice 2". */
export function nameFromFile(fileName: string): string {
  const words = fileName
    .replace(/\.[A-Za-z0-9]{1,8}$/, '')
    .replace(/[-_]+/g, ' ')
    .trim();
  return words ? words.charAt(0).toUpperCase() + words.slice(1, LONGEST_NAME) : 'Clip';
}

/** A name with the next number that is free: "Gong 3" of "Gong" and "Gong 2". */
function nextName(name: string, taken: ReadonlySet<string>): string {
  const stem = name.replace(/ \d{1,4}$/, '').slice(0, LONGEST_NAME - 5);
  let number = 2;
  while (taken.has(`${stem} ${number}`)) number++;
  return `${stem} ${number}`;
}

/** A clip as a new one behind another: with a name, an id and a rank of its own. */
function copyBehind(clips: readonly RankedClip[], { rank: _, ...clip }: RankedClip, behind: string): RankedClip {
  const at = clips.findIndex(({ id }) => id === behind) + 1;
  return {
    ...(clip satisfies ClipDoc),
    id: crypto.randomUUID(),
    name: nextName(clip.name, new Set(clips.map(({ name }) => name))),
    rank: ranksAt(clips, at, 1)[0] ?? '',
  };
}

/** A copy of each of these clips, each behind the one that it is of. */
export function copiesOf(clips: readonly RankedClip[], ids: readonly string[]): RankedClip[] {
  const copies: RankedClip[] = [];
  for (const clip of clips.filter(({ id }) => ids.includes(id))) {
    copies.push(copyBehind([...clips, ...copies].sort(byRank), clip, clip.id));
  }
  return copies;
}

/**
 * Two clips of one, parted at a frame of its source; none where that is not within its cut.
 * @param frames of the source
 */
export function partsOf(clips: readonly RankedClip[], clip: RankedClip, frame: number, frames: number): RankedClip[] {
  const { start = 0, end } = clip.pieces[0]?.cut ?? {};
  if (frame <= start || frame >= (end ?? frames)) return [];
  const cutTo = (start: number, end: number) => ({ ...withSettings(clip, { cut: { start, end } }), rank: clip.rank });
  return [cutTo(start, frame), copyBehind(clips, cutTo(frame, end ?? frames), clip.id)];
}

/**
 * Clips with new ranks, by which they stand one behind the other on one side of another clip; none where they stand so already, or
 * where that one is among them.
 */
export function movedBeside(
  clips: readonly RankedClip[],
  moving: ReadonlySet<string>,
  beside: string,
  isBehind: boolean,
): readonly RankedClip[] {
  const moved = clips.filter(({ id }) => moving.has(id));
  const others = clips.filter(({ id }) => !moving.has(id));
  const place = others.findIndex(({ id }) => id === beside);
  if (place < 0) return [];
  const at = isBehind ? place + 1 : place;
  const after = [...others.slice(0, at), ...moved, ...others.slice(at)];
  if (after.every((clip, i) => clip === clips[i])) return [];
  const ranks = ranksAt(others, at, moved.length);
  return moved.map((clip, i) => ({ ...clip, rank: ranks[i] ?? '' }));
}
