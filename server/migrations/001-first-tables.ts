import { DataTypes, type QueryInterface } from 'sequelize';

// Made new for each column: Sequelize writes into the descriptions that it is given.
const id = () => ({ type: DataTypes.STRING, primaryKey: true });
const text = () => ({ type: DataTypes.STRING, allowNull: false });
const whole = () => ({ type: DataTypes.INTEGER, allowNull: false });
const json = () => ({ type: DataTypes.JSON, allowNull: false });
const date = () => ({ type: DataTypes.DATE, allowNull: false });

const refersTo = (table: string, onDelete: 'CASCADE' | 'RESTRICT') => ({
  ...text(),
  references: { model: table, key: 'id' },
  onDelete,
});

/** Sources, jobs with their clips, deliveries with their files. A source in use cannot be deleted. */
export async function up(db: QueryInterface): Promise<void> {
  await db.createTable('sources', {
    id: id(),
    name: text(),
    sha256: { ...text(), unique: true },
    facts: json(),
    createdAt: date(),
  });
  await db.createTable('jobs', { id: id(), title: text(), targetId: text(), revision: whole(), createdAt: date() });
  await db.createTable('clips', {
    id: id(),
    jobId: refersTo('jobs', 'CASCADE'),
    sourceId: refersTo('sources', 'RESTRICT'),
    position: whole(),
    settings: json(),
  });
  await db.addIndex('clips', ['jobId', 'position']);
  await db.createTable('deliveries', {
    id: id(),
    jobId: refersTo('jobs', 'CASCADE'),
    state: text(),
    error: { type: DataTypes.TEXT, allowNull: true },
    order: json(),
    setFindings: json(),
    createdAt: date(),
  });
  await db.addIndex('deliveries', ['jobId', 'createdAt']);
  await db.createTable('delivered_files', {
    id: { type: DataTypes.INTEGER, primaryKey: true, autoIncrement: true },
    deliveryId: refersTo('deliveries', 'CASCADE'),
    position: whole(),
    name: text(),
    displayName: text(),
    bytes: whole(),
    sha256: text(),
    facts: { type: DataTypes.JSON, allowNull: true },
    report: { type: DataTypes.JSON, allowNull: true },
    findings: json(),
  });
  await db.addIndex('delivered_files', ['deliveryId', 'position']);
}
