import { InputError, type Target, targetOf, targets, variantOf } from '@tambur/core';
import type { Transaction } from 'sequelize';
import { Job, Sheet } from './models/index.ts';
import type { SheetView } from './views.ts';

const isBuiltIn = (id: string) => targets.some((entry) => entry.id === id);

/**
 * A sheet by its id: one that ships with Tambur, or the user's own.
 * @throws InputError with code `unknown-target`
 */
export async function findSheet(id: string): Promise<Target> {
  return isBuiltIn(id) ? targetOf(id) : ((await Sheet.findByPk(id))?.sheet ?? targetOf(id));
}

/** The sheet of a job, in its variant. One that has lost the variant meanwhile is taken as it is. */
export async function sheetOfJob({ targetId, variantId }: Job): Promise<Target> {
  const sheet = await findSheet(targetId);
  try {
    return variantOf(sheet, variantId ?? undefined);
  } catch (error) {
    if (error instanceof InputError) return sheet;
    throw error;
  }
}

/** No id of a sheet is longer. */
const LONGEST_ID = 60;

/** A free id made from a wish: "bell", then "bell-2". */
export async function freeId(wished: string, transaction: Transaction): Promise<string> {
  const own = new Set((await Sheet.findAll({ attributes: ['id'], transaction })).map(({ id }) => id));
  const isTaken = (id: string) => own.has(id) || isBuiltIn(id);
  let id = wished;
  for (let count = 2; isTaken(id); count++) {
    const end = `-${count}`;
    id = wished.slice(0, LONGEST_ID - end.length) + end;
  }
  return id;
}

/** Every sheet, those that ship with Tambur first, with the jobs that use it. */
export async function sheetViews(): Promise<SheetView[]> {
  const own = await Sheet.findAll({ order: [['createdAt', 'ASC']] });
  const jobs = await Job.findAll();
  const view = (sheet: Target, isOwn: boolean): SheetView => ({
    ...sheet,
    isOwn,
    usedBy: jobs.filter(({ targetId }) => targetId === sheet.id).map(({ id, title }) => ({ jobId: id, title })),
  });
  return [...targets.map((sheet) => view(sheet, false)), ...own.map(({ sheet }) => view(sheet, true))];
}
