import { createReadStream } from 'node:fs';
import { stat } from 'node:fs/promises';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import { InputError, jobDocOf, type Manifest, sheetText, sourceOf } from '@tambur/core';
import { sha256Of } from '@tambur/disk';
import { recordWithFiles } from '../jobs/delivery-record.ts';
import { workingJob } from '../jobs/jobs.ts';
import { findSheet } from '../jobs/sheets.ts';
import { Delivery, type Job, Source } from '../models/index.ts';
import type { DataFolder } from '../storage/data-folder.ts';

/** One entry of an export. */
export interface ExportEntry {
  readonly path: string;
  readonly bytes: number;
  readonly sha256: string;
  open(): ReadableStream<Uint8Array> | Uint8Array<ArrayBuffer>;
}

/** A text as an entry. */
function textEntry(path: string, text: string): ExportEntry {
  const encoded = new TextEncoder().encode(text);
  const sha256 = sha256Of(encoded);
  return { path, bytes: encoded.length, sha256, open: () => encoded };
}

const jsonEntry = (path: string, value: unknown) => textEntry(path, `${JSON.stringify(value, null, 2)}\n`);

/** A file of the data folder as an entry; its hash is known. */
async function fileEntry(path: string, file: string, sha256: string): Promise<ExportEntry> {
  const { size } = await stat(file).catch((error: unknown) => {
    if ((error as NodeJS.ErrnoException).code !== 'ENOENT') throw error;
    throw new InputError(
      'cannot-read',
      `The file of ${path} is gone from the data folder, so the job cannot be exported; put it back from a backup.`,
    );
  });
  const open = () => Readable.toWeb(createReadStream(file)) as ReadableStream<Uint8Array>;
  return { path, bytes: size, sha256, open };
}

/** The device's own lists, by their hashes. */
const listEntries = (ownLists: Readonly<Record<string, string>>, data: DataFolder) =>
  Promise.all(
    [...new Set(Object.values(ownLists))].map((sha256) => fileEntry(`lists/${sha256}`, data.list(sha256), sha256)),
  );

/** What is finished and kept of a job's deliveries: their records and files. */
async function deliveryEntries(job: Job, data: DataFolder): Promise<ExportEntry[]> {
  const entries: ExportEntry[] = [];
  for (const delivery of await Delivery.findAll({ where: { jobId: job.id, state: 'done' } })) {
    const { id } = delivery;
    const record = await recordWithFiles(delivery);
    entries.push(jsonEntry(`deliveries/${id}/record.json`, record));
    for (const { path, sha256 } of record.artifacts) {
      entries.push(await fileEntry(`deliveries/${id}/files/${path}`, join(data.delivery(id), path), sha256));
    }
  }
  return entries;
}

/**
 * A job with all that belongs to it, as the entries of a ZIP in the order of their paths. The same job gives the same
 * bytes.
 */
export async function jobExport(job: Job, data: DataFolder): Promise<readonly ExportEntry[]> {
  const document = jobDocOf(await workingJob(job));
  const ids = [...new Set(document.clips.map(sourceOf))];
  const sources = await Source.findAll({ where: { id: ids }, order: [['id', 'ASC']] });
  const files = new Map(sources.map((source) => [source.sha256, data.source(source.key).original]));
  const entries = [
    jsonEntry('job.json', document),
    textEntry(`sheets/${job.targetId}.json`, sheetText(await findSheet(job.targetId, job.more.edition))),
    ...(await Promise.all([...files].map(([sha256, file]) => fileEntry(`sources/${sha256}`, file, sha256)))),
    ...(await listEntries(document.ownLists, data)),
    ...(await deliveryEntries(job, data)),
  ];
  const manifest: Manifest = {
    format: 2,
    kind: 'job',
    sources: sources.map(({ id, sha256, name, reading, track }) => ({
      ...{ id, sha256, name, track },
      reading: reading ?? null,
    })),
    hashes: Object.fromEntries(entries.map(({ path, sha256 }) => [path, sha256]).sort()),
  };
  return [...entries, jsonEntry('manifest.json', manifest)].sort((a, b) => (a.path < b.path ? -1 : 1));
}
