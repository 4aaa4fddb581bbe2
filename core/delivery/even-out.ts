import { toDb } from '../numbers/index.ts';

/** What was measured of one clip before its level is changed. */
export interface MeasuredClip {
  /** LUFS; null for silence. */
  readonly loudness: number | null;
  /** Linear. */
  readonly truePeak: number;
}

export interface EvenedSet {
  /** What every clip that is not silent is to have, LUFS; null if all are silent. */
  readonly loudness: number | null;
  /** What each clip gains, dB; 0 for silence. */
  readonly gains: readonly number[];
  /** Which clip keeps the set from being louder: it reaches the ceiling. Null if the wish is met. */
  readonly bound: number | null;
}

/**
 * One loudness for a whole set: the wished one, or the loudest that all can have, so that no true peak exceeds the
 * ceiling.
 * @param ceilingDb dBTP
 * @param wished LUFS; null: as loud as it goes
 */
export function evenOut(clips: readonly MeasuredClip[], ceilingDb: number, wished: number | null): EvenedSet {
  let loudness = wished ?? Number.POSITIVE_INFINITY;
  let bound: number | null = null;
  clips.forEach((clip, index) => {
    if (clip.loudness === null) return;
    const reachable = clip.loudness + ceilingDb - toDb(clip.truePeak);
    if (reachable < loudness) {
      loudness = reachable;
      bound = index;
    }
  });
  if (clips.every((clip) => clip.loudness === null)) return { loudness: null, gains: clips.map(() => 0), bound: null };
  return { loudness, gains: clips.map((clip) => (clip.loudness === null ? 0 : loudness - clip.loudness)), bound };
}
