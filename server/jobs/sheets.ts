import {
  askedBy,
  freeId,
  type JobDoc,
  requirementText,
  type Target,
  targetOf,
  targets,
  withVariant,
} from '@tambur/core';
import type { Transaction } from 'sequelize';
import { Problem } from '../answers/problem.ts';
import type { SheetView } from '../answers/views.ts';
import { Job, Sheet } from '../models/index.ts';

const isBuiltIn = (id: string) => targets.some((entry) => entry.id === id);

/**
 * A sheet by its id: one that ships with Tambur, or the user's own.
 * @param edition of one that ships; the present one if none is named
 * @throws InputError with code `unknown-target`
 */
export async function findSheet(id: string, edition?: JobDoc['edition']): Promise<Target> {
  return isBuiltIn(id) ? targetOf(id, edition) : ((await Sheet.findByPk(id))?.sheet ?? targetOf(id));
}

/** What a job that is made for a sheet says of it. */
export const madeFor = ({ id, edition }: Target): Pick<JobDoc, 'sheet' | 'edition'> => ({
  sheet: id,
  ...(isBuiltIn(id) ? { edition } : {}),
});

/**
 * Refuses a sheet that lacks a variant used by a job.
 * @throws Problem naming both
 */
export async function refuseLostVariants({ id, variants }: Target, transaction: Transaction): Promise<void> {
  const jobs = await Job.findAll({ where: { targetId: id }, transaction });
  const lost = jobs.find(({ variantId }) => variantId && !variants.some((entry) => entry.id === variantId));
  if (!lost) return;
  const what = `The job ${lost.title} uses the variant "${lost.variantId}", which this sheet would lose`;
  throw new Problem(409, 'in-use', `${what}; keep it, or choose another variant in the job first.`);
}

/** A free id made from a wish: "bell", then "bell-2". */
export async function freeSheetId(wished: string, transaction: Transaction): Promise<string> {
  const own = new Set((await Sheet.findAll({ attributes: ['id'], transaction })).map(({ id }) => id));
  return freeId(wished, (id) => own.has(id) || isBuiltIn(id));
}

/** Every sheet, those that ship with Tambur first, with the jobs that use it. */
export async function sheetViews(): Promise<SheetView[]> {
  const own = await Sheet.findAll({ order: [['createdAt', 'ASC']] });
  const jobs = await Job.findAll();
  const view = (sheet: Target, isOwn: boolean): SheetView => ({
    ...sheet,
    isOwn,
    words: Object.fromEntries(
      [null, ...sheet.variants.map(({ id }) => id)].map((id) => [
        id ?? '',
        askedBy(withVariant(sheet, id)).map(requirementText),
      ]),
    ),
    usedBy: jobs.filter(({ targetId }) => targetId === sheet.id).map(({ id, title }) => ({ jobId: id, title })),
  });
  return [...targets.map((sheet) => view(sheet, false)), ...own.map(({ sheet }) => view(sheet, true))];
}
