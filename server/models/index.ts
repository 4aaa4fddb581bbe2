import type { Artifact, Change, ClipDoc, DeliveryRecord, Facts, JobDoc, Reading, Target } from '@tambur/core';
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
import type { DeliveryState, SourceKind } from '../answers/views.ts';
import { entryOf, isDescribed } from './shelf-entry.ts';

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

/** What the shelf is searched and sorted by: made of the source, and made again whenever that changes. */
export class ShelfEntry extends Model<InferAttributes<ShelfEntry>, InferCreationAttributes<ShelfEntry>> {
  declare sourceId: string;
  /** The version of core whose words it holds. */
  declare madeBy: string;
  /** All that can be searched for, in small letters. */
  declare words: string;
  /** Names in the order of their numbers and letters, whatever the script. */
  declare name: string;
  declare kind: SourceKind;
  declare kindTitle: string;
  /** True if there are remarks on the file. */
  declare isRemarked: boolean;
  declare sampleRate: number;
  declare channels: number;
  declare seconds: number;
  declare bytes: number;
  declare addedAt: Date;
}

export class Job extends Model<InferAttributes<Job>, InferCreationAttributes<Job>> {
  declare id: string;
  declare title: string;
  declare targetId: string;
  /** Variant of the sheet; null for the sheet itself. */
  declare variantId: CreationOptional<string | null>;
  /** What else the job says beside its clips. */
  declare more: Pick<JobDoc, 'edition' | 'offered' | 'values' | 'wishes' | 'places' | 'ownLists'>;
  /** Counts its changes. */
  declare revision: CreationOptional<number>;
  declare createdAt: CreationOptional<Date>;
}

/** Where a step of a job's history stands: carried out, or undone and not yet made again. */
export type Step = 'made' | 'undone';

/** A change of a job, as it was made: undo and redo are changes too. */
export class ChangeRow extends Model<InferAttributes<ChangeRow>, InferCreationAttributes<ChangeRow>> {
  declare id: CreationOptional<number>;
  declare jobId: string;
  /** The job's after it. */
  declare revision: number;
  declare kind: 'change' | 'undo' | 'redo';
  /** Null for what is no step that can be undone or made again: undo and redo themselves, and steps that another one ended. */
  declare step: Step | null;
  /** What was at the places of the change, and what is there now. */
  declare was: Change;
  declare is: Change;
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
  /** Of its piece. */
  declare sourceId: string;
  declare rank: string;
  declare clip: ClipDoc;
}

export class Delivery extends Model<InferAttributes<Delivery>, InferCreationAttributes<Delivery>> {
  declare id: string;
  declare jobId: string;
  declare state: DeliveryState;
  declare error: CreationOptional<string | null>;
  /** What it is made of, and what was found of the set; its files are rows of their own. */
  declare record: Omit<DeliveryRecord, 'artifacts'>;
  declare createdAt: CreationOptional<Date>;
}

/** A file of a delivery. */
export class ArtifactRow extends Model<InferAttributes<ArtifactRow>, InferCreationAttributes<ArtifactRow>> {
  declare id: CreationOptional<number>;
  declare deliveryId: string;
  declare position: number;
  declare path: string;
  declare role: Artifact['role'];
  declare bytes: number;
  declare sha256: string;
  declare madeOf: string;
  declare parts: Artifact['parts'];
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
  const counted = () => ({ type: DataTypes.INTEGER, primaryKey: true, autoIncrement: true });
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
    {
      ...options,
      tableName: 'sources',
      hooks: {
        // Its entry changes with it, in the same transaction.
        async afterSave(source, { transaction }) {
          if (isDescribed(source)) await ShelfEntry.upsert(entryOf(source), { transaction: transaction ?? null });
        },
      },
    },
  );
  const number = () => ({ type: DataTypes.DOUBLE, allowNull: false });
  ShelfEntry.init(
    {
      sourceId: id(),
      madeBy: text(),
      words: { type: DataTypes.TEXT, allowNull: false },
      name: text(),
      kind: text(),
      kindTitle: text(),
      isRemarked: { type: DataTypes.BOOLEAN, allowNull: false },
      sampleRate: number(),
      channels: number(),
      seconds: number(),
      bytes: number(),
      addedAt: { type: DataTypes.DATE, allowNull: false },
    },
    { ...options, tableName: 'shelf_entries' },
  );
  Job.init(
    {
      id: id(),
      title: text(),
      targetId: text(),
      variantId: { type: DataTypes.STRING, allowNull: true },
      more: json(),
      revision: { ...whole(), defaultValue: 0 },
      createdAt: createdAt(),
    },
    { ...options, tableName: 'jobs' },
  );
  ChangeRow.init(
    {
      id: counted(),
      jobId: text(),
      revision: whole(),
      kind: text(),
      step: { type: DataTypes.STRING, allowNull: true },
      was: json(),
      is: json(),
    },
    { ...options, tableName: 'changes' },
  );
  Sheet.init({ id: id(), sheet: json(), createdAt: createdAt() }, { ...options, tableName: 'sheets' });
  Clip.init(
    { id: id(), jobId: text(), sourceId: text(), rank: text(), clip: json() },
    { ...options, tableName: 'clips' },
  );
  Delivery.init(
    {
      id: id(),
      jobId: text(),
      state: text(),
      error: { type: DataTypes.TEXT, allowNull: true },
      record: json(),
      createdAt: createdAt(),
    },
    { ...options, tableName: 'deliveries' },
  );
  ArtifactRow.init(
    {
      id: counted(),
      deliveryId: text(),
      position: whole(),
      path: text(),
      role: text(),
      bytes: whole(),
      sha256: text(),
      madeOf: text(),
      parts: json(),
    },
    { ...options, tableName: 'artifacts' },
  );
  return sequelize;
}
