import { folderIn, type Target } from '@tambur/core';

/** "Pad 3". */
export function placeTitle(places: Target['places'], place: number): string {
  const word = places?.words[0] ?? 'place';
  return `${word.slice(0, 1).toUpperCase()}${word.slice(1)} ${place}`;
}

/** The folder that a device looks in and those beside it on the card: its languages. */
export function languagesOf({ player }: Pick<Target, 'player'>, paths: readonly string[]): readonly string[] {
  const own = player['looks-in']?.path;
  if (own === undefined) return [];
  const above = folderIn(own);
  const beside = paths.map(folderIn).filter((folder) => folderIn(folder) === above);
  return [...new Set([own, ...beside])].filter(Boolean);
}

/**
 * Which file is at which place of a face.
 * @param shown paths of the sounds that the device shows, in its order
 * @param inJob where the job has them; where it says nothing of any, they follow each other from the first place on
 * @param assigned what somebody has put since: null takes away
 */
export function filesAtPlaces(
  first: number,
  shown: readonly string[],
  inJob: ReadonlyMap<number, string> | undefined,
  assigned: ReadonlyMap<number, string | null>,
): ReadonlyMap<number, string> {
  const all = inJob?.size
    ? new Map([...inJob].filter(([, path]) => shown.includes(path)))
    : new Map(shown.map((path, i) => [first + i, path] as const));
  for (const [place, path] of assigned) {
    if (path === null) all.delete(place);
    else all.set(place, path);
  }
  return all;
}
