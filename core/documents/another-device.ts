import { type Chain, type ClipSettings, type StationId, settle, stationIds, stations } from '../chain/index.ts';
import { isPlace } from '../delivery/index.ts';
import type { Facts } from '../facts/index.ts';
import { demandsOf, filledIn, sheetFor, type Target, type Values } from '../targets/index.ts';
import { InputError } from '../words/index.ts';
import { type ClipDoc, EMPTY_JOB, type JobDoc, settingsOf, sourceOf, type Wishes } from './job.ts';

/** A hand setting that makes no sense for another device, in words: "Bell: rate". */
export interface LeftOut {
  /** Name of the clip; null if the setting was for all of them. */
  readonly clip: string | null;
  readonly what: string;
}

/** A job for another device, and what of its hand settings did not go along. */
export interface Transferred {
  readonly job: Omit<JobDoc, 'format'>;
  readonly left: readonly LeftOut[];
}

function settled(settings: ClipSettings, target: Target, facts: Facts): Chain | null {
  try {
    return settle({ facts, settings, target });
  } catch (error) {
    if (error instanceof InputError) return null;
    throw error;
  }
}

/** True if a wish makes sense for a sheet: it can be carried out, meets it, and stands in no way that was free without it. */
function suits(station: StationId, clip: ClipDoc, all: Wishes, target: Target, facts: Facts): boolean {
  const settings = settingsOf(clip, { wishes: all });
  const withIt = settled(settings, target, facts);
  if (!withIt) return false;
  const without = settled({ ...settings, [station]: 'automatic' }, target, facts);
  return (
    stations[station].isAskedForIn(withIt.stations, demandsOf(target)) &&
    withIt.obstacles.length <= (without?.obstacles.length ?? 0)
  );
}

function isTaken(sheet: Target, variant: string | null, values: Values): boolean {
  try {
    sheetFor(sheet, variant, values);
    return true;
  } catch (error) {
    if (error instanceof InputError) return false;
    throw error;
  }
}

const title = (station: StationId) => stations[station].title.toLowerCase();

/**
 * The clips of a job for another sheet. Cuts and names go along; so does what was set by hand and makes sense there. What does not
 * is left out, and named. Places stay as far as the other device has them, and values as far as it asks for them.
 * @param sheet the sheet itself, with its variants and blanks
 * @param factsOf what the sources of the clips are; undefined if one is gone
 * @throws InputError if the sheet has no such variant
 */
export function forAnotherDevice(
  job: JobDoc,
  sheet: Target,
  variant: string | null,
  factsOf: (source: string) => Facts | undefined,
): Transferred {
  const asked = new Set(sheetFor(sheet, variant, {}).blanks.map(({ id }) => id));
  const own = new Set(sheet.blanks.filter(({ level }) => level === 'job').map(({ id }) => id));
  const left: LeftOut[] = [];
  let values: Values = {};
  for (const [id, value] of Object.entries(job.values)) {
    if (!own.has(id)) continue;
    // The other device may ask for the same in other limits.
    if (isTaken(sheet, variant, { ...values, [id]: value })) values = { ...values, [id]: value };
    else left.push({ clip: null, what: id });
  }
  const target = sheetFor(sheet, variant, values);
  const wishStations = stationIds.filter((id) => id !== 'cut');

  const clips = job.clips.map((clip): ClipDoc => {
    const facts = factsOf(sourceOf(clip));
    const kept = { ...clip, values: Object.fromEntries(Object.entries(clip.values).filter(([id]) => asked.has(id))) };
    if (!facts) return kept;
    const filled = filledIn(target, 'clip', kept.values);
    const wishes: Record<string, unknown> = {};
    for (const station of wishStations) {
      const wish = clip.wishes[station];
      if (wish === undefined) continue;
      const alone = { ...kept, wishes: { [station]: wish } };
      if (wish === 'automatic' || suits(station, alone, {}, filled, facts)) wishes[station] = wish;
      else left.push({ clip: clip.name, what: title(station) });
    }
    return { ...kept, wishes };
  });
  const wishes: Record<string, unknown> = {};
  for (const station of wishStations) {
    const wish = job.wishes[station];
    if (wish === undefined) continue;
    const suitsAll = clips.every((clip) => {
      const facts = factsOf(sourceOf(clip));
      const bare = { ...clip, wishes: {} };
      return !facts || suits(station, bare, { [station]: wish }, filledIn(target, 'clip', clip.values), facts);
    });
    if (suitsAll) wishes[station] = wish;
    else left.push({ clip: null, what: title(station) });
  }
  const places = Object.fromEntries(Object.entries(job.places).filter(([number]) => isPlace(target, Number(number))));
  if (Object.keys(places).length < Object.keys(job.places).length) left.push({ clip: null, what: 'places' });
  return {
    job: { ...EMPTY_JOB, title: job.title, sheet: sheet.id, variant, values, wishes, places, clips },
    left,
  };
}
