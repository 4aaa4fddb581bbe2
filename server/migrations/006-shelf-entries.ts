import { DataTypes, type QueryInterface } from 'sequelize';

/** What the shelf is searched and sorted by. The rows are made from the sources at the next start, and whenever one changes. */
export async function up(db: QueryInterface): Promise<void> {
  const text = () => ({ type: DataTypes.TEXT, allowNull: false });
  const number = () => ({ type: DataTypes.DOUBLE, allowNull: false });
  await db.createTable('shelf_entries', {
    sourceId: {
      type: DataTypes.STRING,
      primaryKey: true,
      references: { model: 'sources', key: 'id' },
      onDelete: 'CASCADE',
    },
    madeBy: text(),
    words: text(),
    name: text(),
    kind: text(),
    kindTitle: text(),
    isRemarked: { type: DataTypes.BOOLEAN, allowNull: false },
    sampleRate: number(),
    channels: number(),
    seconds: number(),
    bytes: number(),
    addedAt: { type: DataTypes.DATE, allowNull: false },
  });
  await db.addIndex('shelf_entries', ['addedAt', 'sourceId']);
  await db.addIndex('sources', ['deletedAt', 'id']);
  await db.addIndex('clips', ['sourceId', 'jobId']);
}
