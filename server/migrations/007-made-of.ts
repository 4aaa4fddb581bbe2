import type { QueryInterface } from 'sequelize';

/** Files are found by what they were made of. */
export async function up(db: QueryInterface): Promise<void> {
  await db.addIndex('artifacts', ['madeOf']);
}
