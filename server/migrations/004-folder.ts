import { DataTypes, type QueryInterface } from 'sequelize';

/** The id of the data folder that the database belongs to, in one row. */
export async function up(db: QueryInterface): Promise<void> {
  await db.createTable('folder', { id: { type: DataTypes.STRING, primaryKey: true } });
}
