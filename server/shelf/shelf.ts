import { existsSync } from 'node:fs';
import { rename, rm } from 'node:fs/promises';
import { Op, type Sequelize, type Transaction } from 'sequelize';
import { Problem } from '../answers/problem.ts';
import type { SourceView } from '../answers/views.ts';
import { Clip, Job, Source, writing } from '../models/index.ts';
import type { DataFolder } from '../storage/data-folder.ts';

/** A deletion can be undone for so long. */
const UNDO_MS = 600_000;

export const sourceView = ({ id, name, sha256, facts }: Source): SourceView => ({ id, name, sha256, facts });

/**
 * Takes a source off the shelf. Its files stay until the deletion can no longer be undone.
 * @throws Problem if a clip uses it
 */
export async function deleteSource(source: Source, data: DataFolder, sequelize: Sequelize): Promise<void> {
  const clips = await Clip.findAll({ where: { sourceId: source.id } });
  const first = clips[0];
  if (first) {
    const job = await Job.findByPk(first.jobId);
    const more = clips.length > 1 ? ` and ${clips.length - 1} more` : '';
    const what = clips.length > 1 ? 'those clips' : 'that clip';
    throw new Problem(
      409,
      'in-use',
      `${source.name} is used by the clip ${first.clip.name} of ${job?.title}${more}; remove ${what} first.`,
    );
  }
  await writing(sequelize, (transaction) => source.update({ deletedAt: new Date() }, { transaction }));
  await purge(data, sequelize, new Date(Date.now() - UNDO_MS));
}

/** Removes what was deleted before `then` for good. */
export async function purge(data: DataFolder, sequelize: Sequelize, then: Date): Promise<void> {
  for (const source of await Source.findAll({ where: { deletedAt: { [Op.lte]: then } } })) {
    const removed = data.unfinishedSource(source.key).folder;
    // The row and its files go together: where one cannot go, the other stays.
    await writing(sequelize, async (transaction) => {
      await source.destroy({ transaction });
      const { folder } = data.source(source.key);
      // Where a sudden end came in between, they have gone already.
      if (existsSync(folder)) await rename(folder, removed);
    });
    await rm(removed, { recursive: true, force: true });
  }
}

/** Brings deleted sources back that are wanted again. */
export const restoreSources = async (ids: readonly string[], transaction: Transaction): Promise<void> => {
  await Source.update({ deletedAt: null }, { where: { id: [...ids], deletedAt: { [Op.not]: null } }, transaction });
};
