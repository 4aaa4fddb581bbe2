import { createReadStream } from 'node:fs';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import { safeStem } from '@tambur/core';
import { makeZip, predictLength } from 'client-zip';
import { Hono } from 'hono';
import type { Builder } from '../builds/builder.ts';
import { DeliveredFile, Delivery } from '../models/index.ts';
import { notFound, Problem } from '../problems.ts';
import type { DataFolder } from '../storage/data-folder.ts';
import type { DeliveredFileView, DeliveryView } from '../views.ts';
import { attachment } from './sources.ts';

const filesOf = (deliveryId: string) => DeliveredFile.findAll({ where: { deliveryId }, order: [['position', 'ASC']] });

const fileView = (file: DeliveredFile): DeliveredFileView => ({
  name: file.name,
  displayName: file.displayName,
  bytes: file.bytes,
  sha256: file.sha256,
  facts: file.facts,
  report: file.report,
  findings: file.findings,
});

export async function deliveryView(delivery: Delivery, builder: Builder): Promise<DeliveryView> {
  const { id, jobId, state, error, order, setFindings, createdAt } = delivery;
  return {
    id,
    jobId,
    jobTitle: order.jobTitle,
    targetName: order.target.name,
    state,
    error: error ?? null,
    createdAt: createdAt.toISOString(),
    total: order.clips.length,
    progress: state === 'done' ? 1 : (builder.progressOf(id) ?? 0),
    files: (await filesOf(id)).map(fileView),
    setFindings: setFindings ?? [],
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
    .get('/:id/files/:name', async (c) => {
      const delivery = await findFinished(c.req.param('id'));
      // Only names that stand in the record are looked up on the disk.
      const file = (await filesOf(delivery.id)).find(({ name }) => name === c.req.param('name'));
      if (!file) throw notFound('file');
      return c.body(fileStream(join(data.delivery(delivery.id), file.name)), 200, {
        'Content-Type': 'application/octet-stream',
        'Content-Length': String(file.bytes),
        'Content-Disposition': attachment(file.name),
      });
    })
    .get('/:id/zip', async (c) => {
      const delivery = await findFinished(c.req.param('id'));
      const files = await filesOf(delivery.id);
      const entries = files.map(({ name, bytes }) => ({ name, size: bytes, lastModified: delivery.createdAt }));
      async function* contents() {
        for (const entry of entries)
          yield { ...entry, input: fileStream(join(data.delivery(delivery.id), entry.name)) };
      }
      return c.body(makeZip(contents()), 200, {
        'Content-Type': 'application/zip',
        'Content-Length': String(predictLength(entries)),
        'Content-Disposition': attachment(`${safeStem(delivery.order.jobTitle, '-')}.zip`),
      });
    });
