import type { QueryInterface, Sequelize } from 'sequelize';
import { SequelizeStorage, Umzug } from 'umzug';
import * as firstTables from './001-first-tables.ts';
import * as shelf from './002-shelf.ts';
import * as sheets from './003-sheets.ts';
import * as folder from './004-folder.ts';

/** Every migration, oldest first. A new one: its file, and its line here; none is ever changed. */
const migrations: readonly { name: string; up: (db: QueryInterface) => Promise<void> }[] = [
  { name: '001-first-tables', up: firstTables.up },
  { name: '002-shelf', up: shelf.up },
  { name: '003-sheets', up: sheets.up },
  { name: '004-folder', up: folder.up },
];

/** Brings the database up to date. */
export async function migrate(sequelize: Sequelize): Promise<void> {
  const context = sequelize.getQueryInterface();
  const umzug = new Umzug({
    migrations: migrations.map(({ name, up }) => ({ name, up: () => up(context) })),
    storage: new SequelizeStorage({ sequelize }),
    logger: undefined,
  });
  await umzug.up();
}
