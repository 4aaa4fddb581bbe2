import { DataTypes, type QueryInterface } from 'sequelize';

/**
 * A source is bytes *and* what they are read as: the same file may be there once for each of its sounds and each reading.
 * SQLite cannot drop the old rule that a hash occurs once, so the table is rebuilt and takes the old one's place, as
 * SQLite's documentation describes it ("Making Other Kinds Of Table Schema Changes").
 */
export async function up(db: QueryInterface): Promise<void> {
  const text = () => ({ type: DataTypes.STRING, allowNull: false });
  await db.sequelize.query('PRAGMA foreign_keys = OFF');
  try {
    await db.createTable('sources_new', {
      id: { type: DataTypes.STRING, primaryKey: true },
      name: text(),
      sha256: text(),
      /** Name of the source's folder: made from the hash, the reading and the track. */
      key: { ...text(), unique: true },
      reading: { type: DataTypes.JSON, allowNull: true },
      track: { type: DataTypes.INTEGER, allowNull: false },
      /** The waveform in small: see storage/waveform.ts. */
      waveform: { type: DataTypes.TEXT, allowNull: false },
      facts: { type: DataTypes.JSON, allowNull: false },
      createdAt: { type: DataTypes.DATE, allowNull: false },
      /** Deleted, but not gone yet: the deletion can be undone. */
      deletedAt: { type: DataTypes.DATE, allowNull: true },
    });
    await db.sequelize.query(
      `INSERT INTO sources_new (id, name, sha256, "key", track, waveform, facts, createdAt)
       SELECT id, name, sha256, sha256, 0, '', facts, createdAt FROM sources`,
    );
    await db.dropTable('sources');
    await db.renameTable('sources_new', 'sources');
  } finally {
    await db.sequelize.query('PRAGMA foreign_keys = ON');
  }
}
