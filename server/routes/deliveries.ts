import { createReadStream } from 'node:fs';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import { safeStem } from '@tambur/core';
import { makeZip, predictLength } from 'client-zip';
import { Hono } from 'hono';
import { type Builder, filesOf, mean } from '../builds/builder.ts';
import { ArtifactRow, Delivery } from '../models/index.ts';
import { notFound, Problem } from '../problems.ts';
import type { DataFolder } from '../storage/data-folder.ts';
import type { ArtifactView, DeliveryView } from '../views.ts';
import { attachment } from './sources.ts';

const artifactsOf = (deliveryId: string) =>
  ArtifactRow.findAll({ where: { deliveryId }, order: [['position', 'ASC']] });

/** What is said of files that are no clip's own. */
const TITLES = { list: 'List file', pack: 'All sounds', sound: 'Sound' } as const;

function artifactView(row: ArtifactRow, names: ReadonlyMap<string, string>): ArtifactView {
  const { path, role, bytes, sha256, madeOf, parts } = row;
  const title = (role === 'sound' && names.get(parts[0]?.clip ?? '')) || TITLES[role];
  return { path, role, bytes, sha256, madeOf, parts, title };
}

export async function deliveryView(delivery: Delivery, builder: Builder): Promise<DeliveryView> {
  const { id, jobId, state, error, record, createdAt } = delivery;
  const names = new Map(record.job.clips.map((clip) => [clip.id, clip.name]));
  const files = filesOf(record);
  const parts = builder.progressOf(id) ?? [];
  return {
    id,
    jobId,
    jobTitle: record.job.title,
    targetName: record.sheet.name,
    state,
    error: error ?? null,
    createdAt: createdAt.toISOString(),
    total: files.length,
    progress: state === 'done' ? 1 : mean(parts),
    rows:
      state === 'building' ? files.map(({ clip }, i) => ({ title: names.get(clip) ?? '', done: parts[i] ?? 0 })) : [],
    artifacts: (await artifactsOf(id)).map((row) => artifactView(row, names)),
    findings: record.findings,
  };
}

async function findDelivery(id: string): Promise<Delivery> {
  const delivery = await Delivery.findByPk(id);
  if (!delivery) throw notFound('delivery');
  return delivery;
}

async function findFinished(id: string): Promise<Delivery> {
  const delivery = await findDelivery(id);
  if (delivery.state !== 'done') {
    throw new Problem(
      409,
      'not-built',
      'This delivery is not finished, so there is nothing to download; build it again.',
    );
  }
  return delivery;
}

const fileStream = (path: string) => Readable.toWeb(createReadStream(path)) as ReadableStream<Uint8Array>;

/** What was built: its record, single files, and the whole set as a ZIP. */
export const deliveryRoutes = (data: DataFolder, builder: Builder) =>
  new Hono()
    .get('/:id', async (c) => c.json(await deliveryView(await findDelivery(c.req.param('id')), builder)))
    .post('/:id/cancel', async (c) => {
      const delivery = await findDelivery(c.req.param('id'));
      await builder.cancel(delivery.id);
      return c.json(await deliveryView(await delivery.reload(), builder));
    })
    .post('/:id/again', async (c) =>
      c.json(await builder.buildAgain(await findFinished(c.req.param('id')), c.req.raw.signal)),
    )
    .get('/:id/files/:name', async (c) => {
      const delivery = await findFinished(c.req.param('id'));
      // Only names that stand in the record are looked up on the disk.
      const file = (await artifactsOf(delivery.id)).find(({ path }) => path === c.req.param('name'));
      if (!file) throw notFound('file');
      return c.body(fileStream(join(data.delivery(delivery.id), file.path)), 200, {
        'Content-Type': 'application/octet-stream',
        'Content-Length': String(file.bytes),
        'Content-Disposition': attachment(file.path),
      });
    })
    .get('/:id/zip', async (c) => {
      const delivery = await findFinished(c.req.param('id'));
      const files = await artifactsOf(delivery.id);
      const entries = files.map(({ path, bytes }) => ({ name: path, size: bytes, lastModified: delivery.createdAt }));
      async function* contents() {
        for (const entry of entries)
          yield { ...entry, input: fileStream(join(data.delivery(delivery.id), entry.name)) };
      }
      return c.body(makeZip(contents()), 200, {
        'Content-Type': 'application/zip',
        'Content-Length': String(predictLength(entries)),
        'Content-Disposition': attachment(`${safeStem(delivery.record.job.title, '-')}.zip`),
      });
    });
