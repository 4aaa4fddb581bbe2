import type { ClipSettings, Facts, Finding, Reading, RenderReport, Target } from '@tambur/core';
import { Mutex } from 'async-mutex';
import {
  type CreationOptional,
  DataTypes,
  type InferAttributes,
  type InferCreationAttributes,
  Model,
  Sequelize,
  Transaction,
} from 'sequelize';
import type { DeliveryState } from '../views.ts';

/** A delivery keeps the sheet and the clips as they were when it was started. */
export interface DeliveryOrder {
  readonly jobTitle: string;
  readonly target: Target;
  readonly clips: readonly { readonly clipId: string; readonly sourceId: string; readonly settings: ClipSettings }[];
}

/** Which data folder the database belongs to: one row. */
export class Folder extends Model<InferAttributes<Folder>, InferCreationAttributes<Folder>> {
  declare id: string;
}

export class Source extends Model<InferAttributes<Source>, InferCreationAttributes<Source>> {
  declare id: string;
  declare name: string;
  /** Of its bytes. */
  declare sha256: string;
  /** Name of its folder: no two sources have the same bytes, reading and track. */
  declare key: string;
  /** What headerless bytes were taken to be. */
  declare reading: CreationOptional<Reading | null>;
  /** Which of the file's sounds, from 0. */
  declare track: CreationOptional<number>;
  /** The waveform in small. */
  declare waveform: string;
  declare facts: Facts;
  declare createdAt: CreationOptional<Date>;
  /** Deleted, but not gone yet: the deletion can be undone. */
  declare deletedAt: CreationOptional<Date | null>;
}

export class Job extends Model<InferAttributes<Job>, InferCreationAttributes<Job>> {
  declare id: string;
  declare title: string;
  declare targetId: string;
  /** Edition of the sheet; null for the sheet itself. */
  declare variantId: CreationOptional<string | null>;
  declare revision: CreationOptional<number>;
  declare createdAt: CreationOptional<Date>;
}

/** A target sheet of the user's own. */
export class Sheet extends Model<InferAttributes<Sheet>, InferCreationAttributes<Sheet>> {
  declare id: string;
  declare sheet: Target;
  declare createdAt: CreationOptional<Date>;
}

export class Clip extends Model<InferAttributes<Clip>, InferCreationAttributes<Clip>> {
  declare id: string;
  declare jobId: string;
  declare sourceId: string;
  declare position: number;
  declare settings: ClipSettings;
}

export class Delivery extends Model<InferAttributes<Delivery>, InferCreationAttributes<Delivery>> {
  declare id: string;
  declare jobId: string;
  declare state: DeliveryState;
  declare error: CreationOptional<string | null>;
  declare order: DeliveryOrder;
  declare setFindings: CreationOptional<readonly Finding[]>;
  declare createdAt: CreationOptional<Date>;
}

export class DeliveredFile extends Model<InferAttributes<DeliveredFile>, InferCreationAttributes<DeliveredFile>> {
  declare id: CreationOptional<number>;
  declare deliveryId: string;
  declare position: number;
  declare name: string;
  declare displayName: string;
  declare bytes: number;
  declare sha256: string;
  declare facts: Facts | null;
  declare report: RenderReport | null;
  declare findings: readonly Finding[];
}

const mutex = new Mutex();

/**
 * Does what writes into the database: one at a time in this process, as SQLite takes one writer, and in one transaction,
 * so that all of it is stored or nothing.
 */
export const writing = <T>(sequelize: Sequelize, work: (transaction: Transaction) => Promise<T>): Promise<T> =>
  mutex.runExclusive(() => sequelize.transaction({ type: Transaction.TYPES.IMMEDIATE }, work));

/** Opens the database file and binds the models to it. One process opens one database. */
export async function openDatabase(file: string): Promise<Sequelize> {
  // Sequelize turns foreign keys on for each connection itself; a transaction has a connection of its own.
  const retry = { match: [/SQLITE_BUSY/], max: 10 };
  const sequelize = new Sequelize({ dialect: 'sqlite', storage: file, logging: false, retry });
  await sequelize.query('PRAGMA journal_mode = WAL');
  // What was acknowledged is on the disk: SQLite's own choice, which is asked for all the same.
  await sequelize.query('PRAGMA synchronous = FULL');
  // Made new for each column: Sequelize writes the column's name into its description.
  const id = () => ({ type: DataTypes.STRING, primaryKey: true });
  const text = () => ({ type: DataTypes.STRING, allowNull: false });
  const whole = () => ({ type: DataTypes.INTEGER, allowNull: false });
  const json = () => ({ type: DataTypes.JSON, allowNull: false });
  const createdAt = () => ({ type: DataTypes.DATE, allowNull: false, defaultValue: DataTypes.NOW });
  const options = { sequelize, timestamps: false };

  Folder.init({ id: id() }, { ...options, tableName: 'folder' });
  Source.init(
    {
      id: id(),
      name: text(),
      sha256: text(),
      key: text(),
      reading: { type: DataTypes.JSON, allowNull: true },
      track: { ...whole(), defaultValue: 0 },
      waveform: { type: DataTypes.TEXT, allowNull: false },
      facts: json(),
      createdAt: createdAt(),
      deletedAt: { type: DataTypes.DATE, allowNull: true },
    },
    { ...options, tableName: 'sources' },
  );
  Job.init(
    {
      id: id(),
      title: text(),
      targetId: text(),
      variantId: { type: DataTypes.STRING, allowNull: true },
      revision: { ...whole(), defaultValue: 0 },
      createdAt: createdAt(),
    },
    { ...options, tableName: 'jobs' },
  );
  Sheet.init({ id: id(), sheet: json(), createdAt: createdAt() }, { ...options, tableName: 'sheets' });
  Clip.init(
    { id: id(), jobId: text(), sourceId: text(), position: whole(), settings: json() },
    { ...options, tableName: 'clips' },
  );
  Delivery.init(
    {
      id: id(),
      jobId: text(),
      state: text(),
      error: { type: DataTypes.TEXT, allowNull: true },
      order: json(),
      setFindings: { ...json(), defaultValue: [] },
      createdAt: createdAt(),
    },
    { ...options, tableName: 'deliveries' },
  );
  DeliveredFile.init(
    {
      id: { type: DataTypes.INTEGER, primaryKey: true, autoIncrement: true },
      deliveryId: text(),
      position: whole(),
      name: text(),
      displayName: text(),
      bytes: whole(),
      sha256: text(),
      facts: { type: DataTypes.JSON, allowNull: true },
      report: { type: DataTypes.JSON, allowNull: true },
      findings: json(),
    },
    { ...options, tableName: 'delivered_files' },
  );
  return sequelize;
}
