import { randomUUID } from 'node:crypto';
import {
  type Change,
  type ClipDoc,
  EMPTY_JOB,
  entryOf,
  formatCount,
  type JobDoc,
  type MapName,
  MOST_CLIPS,
  MOST_IN_MAP,
  newClip,
  placeOf,
  type RankedClip,
  ranksAfter,
  sheetFor,
  sourceOf,
  type Target,
  type Values,
  type WorkingJob,
  withEntries,
  wordsOfChange,
  workingJobOf,
} from '@tambur/core';
import { Op, type Sequelize, type Transaction } from 'sequelize';
import type { Events } from '../answers/events.ts';
import { notFound, Problem } from '../answers/problem.ts';
import type { History, StepView } from '../answers/views.ts';
import { ChangeRow, Clip, Job, Source, type Step, writing } from '../models/index.ts';
import { restoreSources } from '../shelf/shelf.ts';
import type { DataFolder } from '../storage/data-folder.ts';
import { ownListsOf } from '../storage/own-lists.ts';
import { findSheet, madeFor } from './sheets.ts';

/** Steps of a job that can be undone or made again; and entries of its log that pages which slept can follow. */
const KEPT = 400;

export const TOO_MANY_CLIPS = 'a job has at most 1 000 clips';

export async function findJob(id: string): Promise<Job> {
  const job = await Job.findByPk(id);
  if (!job) throw notFound('job');
  return job;
}

const clipsOf = async (jobId: string, transaction: Transaction | null = null): Promise<readonly RankedClip[]> => {
  const rows = await Clip.findAll({
    where: { jobId },
    order: [
      ['rank', 'ASC'],
      ['id', 'ASC'],
    ],
    transaction,
  });
  return rows.map(ranked);
};

const ranked = ({ clip, rank }: Clip): RankedClip => ({ ...clip, rank });

/** A job with its clips, as it is worked on. */
export async function workingJob({ id, title, targetId, variantId, more }: Job): Promise<WorkingJob> {
  return { title, sheet: targetId, variant: variantId ?? null, ...more, clips: await clipsOf(id) };
}

/**
 * The sheet of a job, in its variant, its blanks filled.
 * @throws InputError if it is not there any more
 */
export const sheetOfJob = async ({
  sheet,
  edition,
  variant,
  values,
}: Omit<JobDoc, 'format' | 'clips'>): Promise<Target> => sheetFor(await findSheet(sheet, edition), variant, values);

/** How many steps of a job can be undone and redone. */
export async function historyOf(jobId: string, transaction: Transaction | null = null): Promise<History> {
  const count = (step: Step) => ChangeRow.count({ where: { jobId, step }, transaction });
  return { undo: await count('made'), redo: await count('undone') };
}

/** The steps of a job that are known, in the order in which they were made; those that have been undone come last. */
export async function stepsOf(jobId: string): Promise<StepView[]> {
  const rows = await ChangeRow.findAll({ where: { jobId, step: ['made', 'undone'] }, order: [['revision', 'ASC']] });
  return rows.map(({ revision, is, was, step }) => ({
    revision,
    words: wordsOfChange(is, was),
    isMade: step === 'made',
  }));
}

/** The changes of a job after a revision, oldest first; null if some of them are not kept any more. */
export async function changesAfter({ id, revision }: Job, after: number): Promise<readonly Change[] | null> {
  const rows = await ChangeRow.findAll({
    where: { jobId: id, revision: { [Op.gt]: after } },
    order: [['revision', 'ASC']],
  });
  return rows.length === revision - after ? rows.map(({ is }) => is) : null;
}

/** Makes sure that clips can have these sources; an undo may want some that have been deleted meanwhile. */
async function wantSources(sourceIds: readonly string[], transaction: Transaction): Promise<void> {
  const ids = [...new Set(sourceIds)];
  if ((await Source.count({ where: { id: ids }, transaction })) !== ids.length) throw notFound('source');
  await restoreSources(ids, transaction);
}

/** The row of a clip. */
const rowOf = (jobId: string, { rank, ...clip }: RankedClip) => ({
  ...{ id: clip.id, jobId, sourceId: sourceOf(clip), rank, clip },
});

/** Puts clips where a change wants them; gives what was there. */
async function putClips(jobId: string, wanted: ReadonlyMap<string, RankedClip | null>, transaction: Transaction) {
  const before = await Clip.findAll({ where: { id: [...wanted.keys()] }, transaction });
  if (before.some((row) => row.jobId !== jobId)) {
    throw new Problem(409, 'bad-request', "The change uses the id of another job's clip; give it a new id.");
  }
  const gone = [...wanted].flatMap(([id, clip]) => (clip === null ? [id] : []));
  const rows = [...wanted.values()].flatMap((clip) => {
    return clip === null ? [] : [rowOf(jobId, clip)];
  });
  await wantSources(
    rows.map(({ sourceId }) => sourceId),
    transaction,
  );
  if (gone.length) await Clip.destroy({ where: { id: gone }, transaction });
  if (rows.length) await Clip.bulkCreate(rows, { updateOnDuplicate: ['sourceId', 'rank', 'clip'], transaction });
  const isGrown = rows.length > before.length;
  if (isGrown && (await Clip.count({ where: { jobId }, transaction })) > MOST_CLIPS) {
    throw new Problem(409, 'too-many-clips', `This cannot be added: ${TOO_MANY_CLIPS}.`);
  }
  const known = new Map(before.map((row) => [row.id, ranked(row)]));
  return (id: string): RankedClip | null => known.get(id) ?? null;
}

/** @throws Problem if a map that was changed has more entries than a job may have */
function refuseTooMany(more: Job['more'], changed: ReadonlySet<string>): void {
  for (const [name, most] of Object.entries(MOST_IN_MAP)) {
    if (changed.has(name) && Object.keys(more[name as keyof typeof MOST_IN_MAP]).length > most) {
      const message = `The change, ${name}: a job has at most ${formatCount(most)} of them; remove some first.`;
      throw new Problem(409, 'bad-request', message);
    }
  }
}

/** True if a place is given to a clip that the job does not have. */
async function hasStrayPlace(jobId: string, places: JobDoc['places'], transaction: Transaction): Promise<boolean> {
  const assigned = new Set(Object.values(places));
  if (assigned.size === 0) return false;
  const clips = await Clip.findAll({ where: { jobId }, attributes: ['id'], raw: true, transaction });
  for (const { id } of clips) assigned.delete(id);
  return assigned.size > 0;
}

/** Puts a change into the database; gives what was at its places. */
async function put(job: Job, change: Change, data: DataFolder, transaction: Transaction): Promise<Change> {
  const clips = new Map<string, RankedClip | null>();
  const was: Record<string, unknown> = {};
  const maps = new Map<MapName, Record<string, unknown>>();
  let { title, variantId } = job;
  const more = { ...job.more };
  for (const [name, entry] of Object.entries(change)) {
    const place = placeOf(name);
    if (place.of === 'clips') clips.set(place.key, entry as RankedClip | null);
    else if (place.of === 'title') {
      was[name] = title;
      title = String(entry);
    } else if (place.of === 'variant') {
      was[name] = variantId ?? null;
      variantId = entry as string | null;
    } else if (place.of === 'edition' || place.of === 'offered') {
      was[name] = more[place.of] ?? null;
      more[place.of] = entry as number | null;
    } else {
      was[name] = entryOf(job.more[place.of], place.key);
      const entries: Record<string, unknown> = maps.get(place.of) ?? Object.create(null);
      entries[place.key] = entry;
      maps.set(place.of, entries);
    }
  }
  for (const [of, entries] of maps) {
    Object.assign(more, { [of]: withEntries(more[of] as Readonly<Record<string, unknown>>, entries) });
  }
  refuseTooMany(more, new Set(maps.keys()));
  const clipBefore = await putClips(job.id, clips, transaction);
  for (const id of clips.keys()) was[`clips/${id}`] = clipBefore(id);
  if (await hasStrayPlace(job.id, more.places, transaction)) {
    throw new Problem(
      409,
      'bad-request',
      'The change gives a place to a clip that this job does not have; load the page again.',
    );
  }
  // A variant or a value that the sheet does not know is refused before it is stored.
  const filling = ({ edition, values }: Job['more'], variant: string | null) =>
    JSON.stringify([edition, variant, values]);
  const isOther = filling(more, variantId ?? null) !== filling(job.more, job.variantId ?? null);
  if (isOther) sheetFor(await findSheet(job.targetId, more.edition), variantId ?? null, more.values);
  const lists = Object.entries(more.ownLists).filter(([key, sha256]) => job.more.ownLists[key] !== sha256);
  await ownListsOf(data, Object.fromEntries(lists));
  await job.update({ title, variantId, more }, { transaction });
  return was;
}

/** Where the log says that something else was changed at the same place since a revision. */
async function conflict(
  { id, revision }: Job,
  base: number,
  change: Change,
  transaction: Transaction,
): Promise<boolean> {
  if (base === revision) return false;
  const since = await ChangeRow.findAll({ where: { jobId: id, revision: { [Op.gt]: base } }, transaction });
  const isWhole = since.length === revision - base;
  return !isWhole || since.some(({ is }) => Object.keys(is).some((place) => place in change));
}

/** Changes jobs, and tells every page of it. A change is stored as what it puts where, with what was there before. */
export class JobChanges {
  private readonly data: DataFolder;
  private readonly sequelize: Sequelize;
  private readonly events: Events;

  constructor(data: DataFolder, sequelize: Sequelize, events: Events) {
    this.data = data;
    this.sequelize = sequelize;
    this.events = events;
  }

  /**
   * @param base the revision that whoever made the change had seen; null if it goes for whatever there is
   * @returns the new revision
   * @throws Problem with code `changed-elsewhere` if something was changed at the same place since
   */
  change(jobId: string, base: number | null, change: Change): Promise<number> {
    return this.log(jobId, async (job, transaction) => {
      if (base !== null && (await conflict(job, base, change, transaction))) {
        throw new Problem(
          409,
          'changed-elsewhere',
          'Another window changed this at the same time; its change was kept.',
        );
      }
      return { kind: 'change', is: change };
    });
  }

  /** Clips that come after those that are there. */
  addClips(jobId: string, clips: readonly Pick<ClipDoc, 'name' | 'pieces'>[]): Promise<number> {
    return this.log(jobId, async (_, transaction) => {
      const ranks = ranksAfter(await clipsOf(jobId, transaction), clips.length);
      const added = clips.map(({ name, pieces: [piece] }, i) => ({
        ...newClip(randomUUID(), name, piece?.source ?? '', piece?.cut),
        rank: ranks[i] ?? '',
      }));
      return { kind: 'change', is: Object.fromEntries(added.map((clip) => [`clips/${clip.id}`, clip])) };
    });
  }

  /** Takes the last step back, or makes the last one that was taken back again; nothing if there is none. */
  step(jobId: string, kind: 'undo' | 'redo'): Promise<number> {
    return this.log(jobId, async (_, transaction) => {
      const where = { jobId, step: kind === 'undo' ? ('made' as const) : ('undone' as const) };
      const row = await ChangeRow.findOne({
        where,
        order: [['revision', kind === 'undo' ? 'DESC' : 'ASC']],
        transaction,
      });
      return row && moved(kind, [row], transaction);
    });
  }

  /**
   * Undoes or makes again, as one change, what it takes until a step is the last that is made; 0 is before all of them.
   * @throws Problem with code `changed-elsewhere` if the step is not known any more
   */
  async goTo(jobId: string, revision: number): Promise<void> {
    await this.log(jobId, async (_, transaction) => {
      const isKnown = await ChangeRow.count({ where: { jobId, revision, step: ['made', 'undone'] }, transaction });
      if (revision !== 0 && isKnown === 0) {
        throw new Problem(409, 'changed-elsewhere', 'This step no longer exists; look at the list again.');
      }
      const [after, upTo] = [{ [Op.gt]: revision }, { [Op.lte]: revision }];
      const undone = await ChangeRow.findAll({
        where: { jobId, step: 'made', revision: after },
        order: [['revision', 'DESC']],
        transaction,
      });
      if (undone.length) return moved('undo', undone, transaction);
      const redone = await ChangeRow.findAll({
        where: { jobId, step: 'undone', revision: upTo },
        order: [['revision', 'ASC']],
        transaction,
      });
      return redone.length ? moved('redo', redone, transaction) : null;
    });
  }

  private async log(
    jobId: string,
    made: (job: Job, transaction: Transaction) => Promise<Pick<ChangeRow, 'kind' | 'is'> | null>,
  ): Promise<number> {
    const [revision, isChanged] = await writing(this.sequelize, async (transaction) => {
      const job = await Job.findByPk(jobId, { transaction });
      if (!job) throw notFound('job');
      const entry = await made(job, transaction);
      if (!entry) return [job.revision, false] as const;
      const was = await put(job, entry.is, this.data, transaction);
      await job.increment('revision', { transaction });
      const next = job.revision + 1;
      const isStep = entry.kind === 'change';
      // A new step ends what could be made again.
      if (isStep) await ChangeRow.update({ step: null }, { where: { jobId, step: 'undone' }, transaction });
      await ChangeRow.create({ jobId, revision: next, was, ...entry, step: isStep ? 'made' : null }, { transaction });
      await forget(jobId, next, transaction);
      return [next, true] as const;
    });
    if (isChanged) this.events.send({ type: 'job', jobId, revision });
    return revision;
  }
}

/** Marks steps as undone or made again. Gives the one change that does all of it, in their order. */
async function moved(
  kind: 'undo' | 'redo',
  rows: readonly ChangeRow[],
  transaction: Transaction,
): Promise<Pick<ChangeRow, 'kind' | 'is'>> {
  const step: Step = kind === 'undo' ? 'undone' : 'made';
  await ChangeRow.update({ step }, { where: { id: rows.map(({ id }) => id) }, transaction });
  return { kind, is: Object.assign({}, ...rows.map(({ is, was }) => (kind === 'undo' ? was : is))) };
}

/**
 * Lets go what is kept no longer: entries of the log behind the last `KEPT` that are no steps, and steps behind as many
 * others. Entries that are no steps never take the place of one.
 */
async function forget(jobId: string, revision: number, transaction: Transaction): Promise<void> {
  const where = { jobId, step: null, revision: { [Op.lte]: revision - KEPT } };
  await ChangeRow.destroy({ where, transaction });
  const [oldest] = await ChangeRow.findAll({
    where: { jobId, step: ['made', 'undone'] },
    attributes: ['revision'],
    order: [['revision', 'DESC']],
    offset: KEPT,
    limit: 1,
    transaction,
  });
  if (!oldest) return;
  await ChangeRow.destroy({
    where: { jobId, step: ['made', 'undone'], revision: { [Op.lte]: oldest.revision } },
    transaction,
  });
}

/** A document with another id for each of its clips, and with ranks: where it came from its clips are still there. */
export function asNewJob(document: JobDoc): WorkingJob {
  const ids = new Map(document.clips.map(({ id }) => [id, randomUUID()]));
  const clips = document.clips.map((clip) => ({ ...clip, id: ids.get(clip.id) ?? clip.id }));
  const places = Object.fromEntries(Object.entries(document.places).map(([place, id]) => [place, ids.get(id) ?? id]));
  return workingJobOf({ ...document, clips, places });
}

/** The row of a job, without its clips. */
export const jobRow = ({ title, sheet, variant, clips: _, ...more }: WorkingJob, id: string = randomUUID()) => ({
  ...{ id, title, targetId: sheet, variantId: variant, more },
});

/** Puts a job with its clips into the database; its sheet is there. */
export async function createJob(working: WorkingJob, transaction: Transaction): Promise<Job> {
  const job = await Job.create(jobRow(working), { transaction });
  await Clip.bulkCreate(
    working.clips.map((clip) => rowOf(job.id, clip)),
    { transaction },
  );
  return job;
}

/** A new job for a sheet, without clips. */
export const newJob = (title: string, sheet: Target, variant: string | null, values: Values = {}): WorkingJob => ({
  ...EMPTY_JOB,
  ...madeFor(sheet),
  ...{ title, variant, values, clips: [] },
});
