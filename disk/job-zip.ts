import {
  BUDGETS,
  type DeliveryRecord,
  formatBytes,
  InputError,
  type JobDoc,
  LARGEST_LIST,
  type Manifest,
  type OwnLists,
  parseDocument,
  sheetFor,
  type Target,
} from '@tambur/core';
import type { ZipFile } from './zip-file.ts';

/** What an exported job says, read and checked before anything of it is used. */
export interface JobZip {
  readonly manifest: Manifest;
  readonly job: JobDoc;
  readonly sheet: Target;
  readonly deliveries: readonly DeliveryRecord[];
  /** Lists that the device has now, by the keys of the sheet's. */
  readonly ownLists: OwnLists;
}

/**
 * @param name what the export is called, for refusals
 * @throws InputError if it is damaged, or its job does not suit its sheet
 */
export async function readJobZip(zip: ZipFile, name: string): Promise<JobZip> {
  /** UTF-8 has at most three bytes for each unit of a text. */
  const textOf = (kind: keyof typeof BUDGETS, path: string, hashes?: Manifest['hashes']) =>
    zip.text(path, hashes?.[path] ?? null, 3 * BUDGETS[kind].length);
  const manifest = parseDocument('manifest', await textOf('manifest', 'manifest.json'), `${name}, manifest.json`);
  const { hashes } = manifest;
  const job = parseDocument('job', await textOf('job', 'job.json', hashes), `${name}, job.json`);
  const sheetPath = `sheets/${job.sheet}.json`;
  const sheet = parseDocument('sheet', await textOf('sheet', sheetPath, hashes), `${name}, ${sheetPath}`);
  sheetFor(sheet, job.variant, job.values);
  const records = zip.below('deliveries').filter((path) => /^deliveries\/[^/]+\/record\.json$/.test(path));
  const deliveries: DeliveryRecord[] = [];
  let room = BUDGETS.delivery.length;
  for (const path of records) {
    const text = await textOf('delivery', path, hashes);
    room -= text.length;
    if (room < 0) {
      throw new InputError(
        'too-large',
        `${name}: the records of its deliveries take more than ${formatBytes(BUDGETS.delivery.length)} together; delete some deliveries, and export the job again.`,
      );
    }
    deliveries.push(parseDocument('delivery', text, `${name}, ${path}`));
  }
  const ownLists = new Map<string, Uint8Array>();
  for (const [key, sha256] of Object.entries(job.ownLists)) {
    ownLists.set(key, await zip.bytes(`lists/${sha256}`, sha256, LARGEST_LIST));
  }
  return { manifest, job, sheet, deliveries, ownLists };
}
