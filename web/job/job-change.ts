import type { RankedClip } from '@tambur/core';
import type { JobView } from '@tambur/server';
import { api, unwrap } from '../api/client.ts';
import type { ShownCause } from '../sound/workers/tryout-worker.ts';

/** What changes a job from outside its bench: one step of its undo, as if it had been made there. */

const jobOf = (id: string) => unwrap<JobView>(api.jobs[':id'].$get({ param: { id } }));

async function change(id: string, { revision }: JobView, what: Readonly<Record<string, unknown>>): Promise<void> {
  await unwrap(api.jobs[':id'].changes.$post({ param: { id }, json: { revision, change: what } }));
}

/** Takes the last step of a job back. */
export const undoStep = (id: string) => unwrap(api.jobs[':id'].undo.$post({ param: { id } }));

/** A clip with a mend at its station: what else is set there stays, unless the station goes back to automatic. */
function mended(clip: RankedClip, station: string, wish: NonNullable<ShownCause['mend']['wish']>): RankedClip {
  const before = clip.wishes[station as keyof typeof clip.wishes];
  const rest = typeof before === 'object' ? before : {};
  const now = wish === 'automatic' ? wish : { ...rest, ...wish };
  return { ...clip, wishes: { ...clip.wishes, [station]: now } };
}

/** @throws ApiError if the job or the clip is gone, or the change does not make sense */
export async function takeMend(jobId: string, clipId: string, { station, wish }: ShownCause['mend']): Promise<void> {
  const view = await jobOf(jobId);
  const clip = view.job.clips.find(({ id }) => id === clipId);
  if (!clip || station === null || wish === null)
    throw new Error('The clip is not in the job any more; build it again.');
  await change(jobId, view, { [`clips/${clipId}`]: mended(clip, station, wish) });
}

/** Clips at the places of a job: what is at each of them, and nothing at those that are given as null. */
export async function putAt(jobId: string, wanted: ReadonlyMap<number, string | null>): Promise<void> {
  const view = await jobOf(jobId);
  const { places } = view.job;
  const fresh = [...wanted].filter(([place, clip]) => (places[place] ?? null) !== clip);
  if (fresh.length === 0) return;
  await change(jobId, view, Object.fromEntries(fresh.map(([place, clip]) => [`places/${place}`, clip])));
}
