import { randomUUID } from 'node:crypto';
import { mkdir, open, rm } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import {
  type DeliveryRecord,
  editionsOf,
  InputError,
  type JobDoc,
  movedOn,
  sheetText,
  type Target,
} from '@tambur/core';
import { type JobZip, ZipFile } from '@tambur/disk';
import type { Sequelize, Transaction } from 'sequelize';
import type { Importer, ImportOptions } from '../imports/importer.ts';
import { asNewJob, createJob } from '../jobs/jobs.ts';
import { freeSheetId, madeFor } from '../jobs/sheets.ts';
import { ArtifactRow, Delivery, type Job, Sheet, Source, writing } from '../models/index.ts';
import { deleteSource } from '../shelf/shelf.ts';
import type { DataFolder } from '../storage/data-folder.ts';
import { publish, writeAll } from '../storage/disk.ts';
import { keepList } from '../storage/own-lists.ts';
import type { ExportReader } from './export-reader.ts';

export interface JobImport {
  readonly data: DataFolder;
  readonly sequelize: Sequelize;
  readonly importer: Importer;
  readonly exportReader: ExportReader;
}

/** An export of which the documents have been read; its other entries are read from the ZIP. */
interface OpenExport extends JobZip {
  readonly zip: ZipFile;
}

/** Brings the sources in; gives their new ids by the old ones. Those that were not there before go again if `use` fails. */
async function withSources<T>(
  { data, sequelize, importer }: JobImport,
  { zip, manifest }: OpenExport,
  { signal }: ImportOptions,
  use: (ids: ReadonlyMap<string, string>) => Promise<T>,
): Promise<T> {
  const before = new Set((await Source.findAll({ where: { deletedAt: null } })).map(({ id }) => id));
  const taken: Source[] = [];
  try {
    const ids = new Map<string, string>();
    const known = new Map<string, Source>();
    for (const { id, sha256, name, reading, track } of manifest.sources) {
      const how = { track, ...(reading ? { reading } : {}), ...(signal ? { signal } : {}) };
      // What is named twice is brought in once.
      const key = JSON.stringify([sha256, track, reading]);
      const source = known.get(key) ?? (await importer.take(name, zip.read(`sources/${sha256}`, sha256), how));
      if (!known.has(key)) taken.push(source);
      known.set(key, source);
      ids.set(id, source.id);
    }
    return await use(ids);
  } catch (error) {
    for (const source of taken) if (!before.has(source.id)) await deleteSource(source, data, sequelize);
    throw error;
  }
}

/** Keeps the device's own lists; what is kept already is the same. */
async function takeLists(data: DataFolder, { ownLists }: JobZip): Promise<void> {
  for (const bytes of ownLists.values()) await keepList(data, bytes);
}

/** The sheet as it is known here: an edition that ships with Tambur, or it was there already, or it comes in under a free id. */
async function takeSheet(sheet: Target, transaction: Transaction): Promise<Target> {
  const text = sheetText(sheet);
  const own = await Sheet.findByPk(sheet.id, { transaction });
  const known = [...editionsOf(sheet.id), ...(own ? [own.sheet] : [])].find((other) => sheetText(other) === text);
  if (known) return known;
  const id = await freeSheetId(sheet.id, transaction);
  const fresh = { ...sheet, id };
  await Sheet.create({ id, sheet: fresh }, { transaction });
  return fresh;
}

/** Puts the files of a delivery where those of deliveries are, each compared with its hash. */
async function takeFiles(data: DataFolder, { zip }: OpenExport, { id, artifacts }: DeliveryRecord, newId: string) {
  const folder = data.unfinishedDelivery(newId);
  await mkdir(folder);
  for (const { path, sha256, bytes } of artifacts) {
    await mkdir(dirname(join(folder, path)), { recursive: true });
    const file = await open(join(folder, path), 'wx');
    try {
      for await (const piece of zip.read(`deliveries/${id}/files/${path}`, sha256)) await writeAll(file, piece);
      if ((await file.stat()).size !== bytes) {
        throw new InputError(
          'damaged',
          `The export states ${bytes} bytes for ${path} of a delivery, but that file differs; export the job again.`,
        );
      }
      await file.sync();
    } finally {
      await file.close();
    }
  }
  await publish(folder, data.delivery(newId));
}

/** The job with the sources that came in. */
function withNewSources(job: JobDoc, sources: ReadonlyMap<string, string>): JobDoc {
  const sourceOf = (old: string) => {
    const found = sources.get(old);
    if (!found) throw new InputError('damaged', 'The export does not name the source of a clip; export the job again.');
    return found;
  };
  const clips = job.clips.map((clip) => ({
    ...clip,
    pieces: clip.pieces.map((piece) => ({ ...piece, source: sourceOf(piece.source) })),
  }));
  return { ...job, clips };
}

/**
 * Takes a job from its export: sources, sheet, clips and finished deliveries. All of it, or nothing.
 * @throws InputError if the export is damaged or cannot be used
 */
export function importJob(
  parts: JobImport,
  name: string,
  body: AsyncIterable<Uint8Array>,
  options: ImportOptions,
): Promise<Job> {
  const { data, sequelize, importer, exportReader } = parts;
  return importer.received(name, body, options, async (upload) => {
    const zip = await ZipFile.open(upload, name);
    const made: string[] = [];
    try {
      const read = { ...(await exportReader.read(upload, name, options.signal)), zip };
      return await withSources(parts, read, options, async (sources) => {
        const fresh = asNewJob(withNewSources(read.job, sources));
        await takeLists(data, read);
        const deliveries = read.deliveries.map((record) => ({ record, id: randomUUID() }));
        for (const { record, id } of deliveries) {
          made.push(id);
          await takeFiles(data, read, record, id);
        }
        return await writing(sequelize, async (transaction) => {
          const sheet = await takeSheet(read.sheet, transaction);
          const job = await createJob({ ...fresh, ...movedOn({ ...fresh, ...madeFor(sheet) }) }, transaction);
          for (const { record, id } of deliveries) {
            const { artifacts, ...rest } = record;
            const delivery = { id, jobId: job.id, state: 'done' as const, record: { ...rest, id } };
            await Delivery.create(delivery, { transaction });
            const rows = artifacts.map((artifact, position) => ({ ...artifact, deliveryId: id, position }));
            await ArtifactRow.bulkCreate(rows, { transaction });
          }
          return job;
        });
      });
    } catch (error) {
      for (const id of made) {
        await rm(data.unfinishedDelivery(id), { recursive: true, force: true });
        await rm(data.delivery(id), { recursive: true, force: true });
      }
      throw error;
    } finally {
      zip.close();
    }
  });
}
