import type { Sequelize } from 'sequelize';
import type { Builder } from '../builds/builder.ts';
import type { Importer } from '../imports/importer.ts';
import { Delivery, Source } from '../models/index.ts';
import { purge } from '../shelf/shelf.ts';
import { renewEntries } from '../shelf/shelf-list.ts';
import { type DataFolder, isUnfinished, removeStray } from '../storage/data-folder.ts';
import { setAside } from '../storage/lost.ts';

const counted = (count: number, one: string, many: string) => (count === 1 ? `1 ${one}` : `${count} ${many}`);

/**
 * Puts right what a sudden end left behind: unfinished files and deleted sources go, builds that were under way start
 * again. What nothing refers to is set aside, never deleted. Gives back a sentence for each thing that was done.
 */
export async function tidy(
  data: DataFolder,
  sequelize: Sequelize,
  importer: Importer,
  builder: Builder,
): Promise<string[]> {
  const done: string[] = [];
  await removeStray(data.wholes, () => true);
  await removeStray(data.lists, isUnfinished);
  await purge(data, sequelize, new Date());
  const uploads = await removeStray(data.uploads, isUnfinished);
  const known = new Set((await Source.findAll({ attributes: ['key'] })).map(({ key }) => key));
  const imports = await removeStray(data.sources, isUnfinished);
  if (uploads + imports) done.push(`Removed ${counted(uploads + imports, 'unfinished import', 'unfinished imports')}.`);

  done.push(...(await importer.renewFacts()));
  await renewEntries(sequelize);

  const deliveries = await Delivery.findAll({ attributes: ['id', 'state'] });
  const states = new Map(deliveries.map(({ id, state }) => [id, state]));
  // What is recorded and not done is built again, or was given up.
  const isGivenUp = (name: string) => states.has(name) && states.get(name) !== 'done';
  const folders = await removeStray(data.deliveries, (name) => isUnfinished(name) || isGivenUp(name));
  if (folders) done.push(`Removed the files of ${counted(folders, 'unfinished build', 'unfinished builds')}.`);

  const lost =
    (await setAside(data, data.uploads, () => true, 'no upload of Tambur')) +
    (await setAside(data, data.sources, (name) => !known.has(name), 'a source that the database does not know')) +
    (await setAside(data, data.deliveries, (name) => !states.has(name), 'a delivery that the database does not know'));
  if (lost)
    done.push(
      `Moved ${counted(lost, 'entry', 'entries')} that nothing refers to into ${data.lost}, with a list of them.`,
    );

  for (const delivery of await Delivery.findAll({ where: { state: 'building' } })) {
    builder.start(delivery);
    done.push(`Started the build of ${delivery.record.job.title} again.`);
  }
  return done;
}
