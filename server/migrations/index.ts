import { InputError } from '@tambur/core';
import type { QueryInterface, Sequelize } from 'sequelize';
import { SequelizeStorage, Umzug } from 'umzug';
import * as firstTables from './001-first-tables.ts';
import * as shelf from './002-shelf.ts';
import * as sheets from './003-sheets.ts';
import * as folder from './004-folder.ts';
import * as format2 from './005-format-2.ts';
import * as shelfEntries from './006-shelf-entries.ts';
import * as madeOf from './007-made-of.ts';
import * as steps from './008-steps.ts';
import * as asked from './009-asked.ts';
import * as editions from './010-editions.ts';

/** Every migration, oldest first. A new one: its file, and its line here; none is ever changed. */
const migrations: readonly { name: string; up: (db: QueryInterface) => Promise<void> }[] = [
  { name: '001-first-tables', up: firstTables.up },
  { name: '002-shelf', up: shelf.up },
  { name: '003-sheets', up: sheets.up },
  { name: '004-folder', up: folder.up },
  { name: '005-format-2', up: format2.up },
  { name: '006-shelf-entries', up: shelfEntries.up },
  { name: '007-made-of', up: madeOf.up },
  { name: '008-steps', up: steps.up },
  { name: '009-asked', up: asked.up },
  { name: '010-editions', up: editions.up },
];

const storageOf = (sequelize: Sequelize) => new SequelizeStorage({ sequelize });

/** Whether a database has to be changed before it can be used. */
export async function isOutdated(sequelize: Sequelize): Promise<boolean> {
  const done = await storageOf(sequelize).executed();
  return migrations.some(({ name }) => !done.includes(name));
}

/**
 * Brings the database up to date.
 * @throws InputError with code `newer-format` if a newer Tambur has used it
 */
export async function migrate(sequelize: Sequelize): Promise<void> {
  const storage = storageOf(sequelize);
  const unknown = (await storage.executed()).find((done) => !migrations.some(({ name }) => name === done));
  if (unknown !== undefined) {
    throw new InputError(
      'newer-format',
      `A newer Tambur has used this data folder (${unknown}); use that one, or go back to a backup with --restore.`,
    );
  }
  const context = sequelize.getQueryInterface();
  const umzug = new Umzug({
    migrations: migrations.map(({ name, up }) => ({ name, up: () => up(context) })),
    storage,
    logger: undefined,
  });
  await umzug.up();
}
