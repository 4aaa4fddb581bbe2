import { DataTypes, type QueryInterface } from 'sequelize';

/** Sheets of the user's own, and jobs for one edition of a sheet. */
export async function up(db: QueryInterface): Promise<void> {
  await db.createTable('sheets', {
    id: { type: DataTypes.STRING, primaryKey: true },
    sheet: { type: DataTypes.JSON, allowNull: false },
    createdAt: { type: DataTypes.DATE, allowNull: false },
  });
  await db.addColumn('jobs', 'variantId', { type: DataTypes.STRING, allowNull: true });
}
