import { readdir } from 'node:fs/promises';
import { FACTS_VERSION, type Facts, type Reading, readingSchema } from '@tambur/core';
import type { Sequelize, Transaction } from 'sequelize';
import * as v from 'valibot';
import { Source, writing } from '../models/index.ts';
import { type DataFolder, isUnfinished, type SourceFiles } from './data-folder.ts';
import { readJson, writeWhole } from './disk.ts';

/** What the database knows of a source, beside its sound: from it a new database takes the source back. */
const recordSchema = v.object({
  format: v.literal(1),
  id: v.string(),
  name: v.string(),
  sha256: v.pipe(v.string(), v.regex(/^[0-9a-f]{64}$/)),
  key: v.string(),
  reading: v.nullable(readingSchema),
  track: v.pipe(v.number(), v.integer(), v.minValue(0)),
  waveform: v.string(),
  facts: v.looseObject({ version: v.number(), frames: v.number(), channels: v.number(), sampleRate: v.number() }),
  createdAt: v.pipe(v.string(), v.isoTimestamp()),
});

type SourceRow = Pick<Source, 'id' | 'name' | 'sha256' | 'key' | 'waveform' | 'facts'> & {
  readonly reading: Reading | null;
  readonly track: number;
  readonly createdAt: Date;
};

/** Writes the record of a source into its folder. */
export function writeRecord(files: SourceFiles, source: SourceRow): Promise<void> {
  const { id, name, sha256, key, reading, track, waveform, facts, createdAt } = source;
  const record = { format: 1, id, name, sha256, key, reading, track, waveform, facts, createdAt };
  return writeWhole(files.record, JSON.stringify(record));
}

/** Writes it again after a change of the source. */
export const renewRecord = (data: DataFolder, source: Source): Promise<void> =>
  writeRecord(data.source(source.key), source as SourceRow);

/**
 * Takes sources back into a database that does not know them, from what is on the disk: all of them or none.
 * @returns their names
 */
export const takeBack = (data: DataFolder, sequelize: Sequelize): Promise<string[]> =>
  writing(sequelize, (transaction) => takeBackIn(data, transaction));

async function takeBackIn(data: DataFolder, transaction: Transaction): Promise<string[]> {
  const known = new Set((await Source.findAll({ attributes: ['key'], transaction })).map(({ key }) => key));
  const names: string[] = [];
  for (const key of await readdir(data.sources)) {
    if (isUnfinished(key) || known.has(key)) continue;
    const record = v.safeParse(recordSchema, await readJson(data.source(key).record));
    if (!record.success || record.output.key !== key) continue;
    const { format: _, createdAt, facts, ...rest } = record.output;
    // Facts are made by this program alone; those of another version are read again at the start.
    const version = facts.version === FACTS_VERSION ? FACTS_VERSION : 0;
    const source = { ...rest, facts: { ...facts, version } as unknown as Facts, createdAt: new Date(createdAt) };
    await Source.create(source, { transaction });
    names.push(rest.name);
  }
  return names;
}
