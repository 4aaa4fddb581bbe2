import { Op } from 'sequelize';
import type { Builder } from './builds/builder.ts';
import type { Importer } from './imports/importer.ts';
import { Delivery, Source } from './models/index.ts';
import { type DataFolder, removeStray } from './storage/data-folder.ts';

const counted = (count: number, one: string, many: string) => (count === 1 ? `1 ${one}` : `${count} ${many}`);

/**
 * Puts right what a sudden end left behind: unfinished files and deleted sources go, builds that were under way start again. Gives back a
 * sentence for each thing that was done.
 */
export async function tidy(data: DataFolder, importer: Importer, builder: Builder): Promise<string[]> {
  const done: string[] = [];
  await Source.destroy({ where: { deletedAt: { [Op.not]: null } } });
  const uploads = await removeStray(data.uploads, () => true);
  const known = new Set((await Source.findAll({ attributes: ['key'] })).map(({ key }) => key));
  const imports = await removeStray(data.sources, (name) => !known.has(name));
  if (uploads + imports) done.push(`Removed ${counted(uploads + imports, 'unfinished import', 'unfinished imports')}.`);

  done.push(...(await importer.renewFacts()));

  const deliveries = await Delivery.findAll({ attributes: ['id', 'state'] });
  const built = new Set(deliveries.filter(({ state }) => state === 'done').map(({ id }) => id));
  const folders = await removeStray(data.deliveries, (name) => !built.has(name));
  if (folders) done.push(`Removed the files of ${counted(folders, 'unfinished build', 'unfinished builds')}.`);

  for (const delivery of await Delivery.findAll({ where: { state: 'building' } })) {
    builder.start(delivery);
    done.push(`Started the build of ${delivery.order.jobTitle} again.`);
  }
  return done;
}
