import { createReadStream } from 'node:fs';
import { type FileHandle, open } from 'node:fs/promises';
import { Readable } from 'node:stream';
import { inLatin, interleave, readingSchema } from '@tambur/core';
import contentDisposition from 'content-disposition';
import { Hono } from 'hono';
import type { Sequelize } from 'sequelize';
import * as v from 'valibot';
import type { Events } from '../events.ts';
import { type Importer, shownName } from '../imports/importer.ts';
import { shelf, shelfEntry } from '../listings.ts';
import { Source, writing } from '../models/index.ts';
import { notFound, Problem } from '../problems.ts';
import { deleteSource, restoreSources, sourceView } from '../shelf.ts';
import { shelfList } from '../shelf-list.ts';
import type { DataFolder } from '../storage/data-folder.ts';
import { openSourceSound, type Stored, storedRange } from '../storage/sound-file.ts';
import { renewRecord } from '../storage/source-record.ts';
import { SHELF_FILTERS, SHELF_ORDERS, type ShelfList, type ShelfView } from '../views.ts';
import { bodyOf, jsonBody, jsonText, lengthOf, query } from './body.ts';

/** Most frames that one request for samples gives. */
const MOST_FRAMES = 1 << 20;

const wholeNumber = v.pipe(v.string(), v.regex(/^\d{1,15}$/), v.transform(Number));

async function findSource(id: string): Promise<Source> {
  const source = await Source.findOne({ where: { id, deletedAt: null } });
  if (!source) throw notFound('source');
  return source;
}

async function withFile<T>(path: string, use: (file: FileHandle) => Promise<T>): Promise<T> {
  const file = await open(path, 'r');
  try {
    return await use(file);
  } finally {
    await file.close();
  }
}

/**
 * Numbers that are stored beside a source's sound; none where they have not been made.
 * @throws Problem where there is no such step
 */
async function readStored(id: string, kind: Stored, step: number, data: DataFolder): Promise<Uint8Array<ArrayBuffer>> {
  const { key, facts } = await findSource(id);
  const range = storedRange(facts, kind, step);
  if (!range) throw new Problem(400, 'bad-request', `step: there are no ${kind} of that step.`);
  const bytes = new Uint8Array(range.length);
  const { bytesRead } = await withFile(data.source(key).peaks, (file) =>
    file.read(bytes, 0, range.length, range.offset),
  );
  return bytesRead === range.length ? bytes : new Uint8Array(0);
}

/** Numbers of a source never change, so that pages may keep them. */
const forever = { 'Content-Type': 'application/octet-stream', 'Cache-Control': 'private, max-age=31536000, immutable' };

const nameSchema = v.pipe(v.string(), v.trim(), v.nonEmpty('a source needs a name'), v.maxLength(200));

/** What headerless bytes are, as the query says it in JSON. */
const trackSchema = v.pipe(wholeNumber, v.maxValue(999));

const takeQuery = v.object({
  name: v.string(),
  /** Under which the page hears of its progress. */
  importId: v.optional(v.pipe(v.string(), v.uuid())),
  track: v.optional(trackSchema),
  reading: v.optional(v.pipe(v.string(), v.parseJson(), readingSchema)),
});

/** Of so many sources one request tells what they are. */
const MOST_ROWS = 200;

/** Ids with commas between them. */
const idsSchema = v.pipe(
  v.string(),
  v.transform((text) => text.split(',')),
  v.maxLength(MOST_ROWS, `ask for at most ${MOST_ROWS} at once`),
);

const listQuery = v.object({
  search: v.optional(v.pipe(v.string(), v.maxLength(200)), ''),
  filter: v.optional(v.picklist(SHELF_FILTERS), 'all'),
  order: v.optional(v.picklist(SHELF_ORDERS), 'added'),
  descending: v.optional(v.picklist(['true', 'false']), 'true'),
});

/** The shelf: files in, their facts, peaks and samples out. */
export const sourceRoutes = (data: DataFolder, sequelize: Sequelize, importer: Importer, events: Events) =>
  new Hono()
    .get('/', query(v.object({ ids: v.optional(idsSchema) })), async (c) =>
      jsonText<ShelfView[]>(c, await shelf(c.req.valid('query').ids)),
    )
    .get('/list', query(listQuery), async (c) => {
      const { order, descending, ...wanted } = c.req.valid('query');
      return jsonText<ShelfList>(c, await shelfList({ ...wanted, order, isDescending: descending === 'true' }));
    })
    .post('/', query(takeQuery), async (c) => {
      const { name, importId, track, reading } = c.req.valid('query');
      const source = await importer.take(name, bodyOf(c), {
        length: lengthOf(c),
        track,
        reading,
        signal: c.req.raw.signal,
        onProgress: importId
          ? ({ frames, expected }) => events.send({ type: 'import', importId, frames, expected })
          : undefined,
      });
      events.send({ type: 'shelf' });
      return c.json(sourceView(source), 201);
    })
    .post('/:id/again', jsonBody(v.object({ track: v.pipe(v.number(), v.integer(), v.minValue(0)) })), async (c) => {
      const found = await findSource(c.req.param('id'));
      const source = await importer.again(found, { ...c.req.valid('json'), signal: c.req.raw.signal });
      events.send({ type: 'shelf' });
      return c.json(sourceView(source), 201);
    })
    .patch('/:id', jsonBody(v.object({ name: nameSchema })), async (c) => {
      const source = await findSource(c.req.param('id'));
      const name = shownName(c.req.valid('json').name);
      await writing(sequelize, (transaction) => source.update({ name }, { transaction }));
      await renewRecord(data, source);
      events.send({ type: 'shelf' });
      return c.json(await shelfEntry(source));
    })
    .delete('/:id', async (c) => {
      await deleteSource(await findSource(c.req.param('id')), data, sequelize);
      events.send({ type: 'shelf' });
      return c.body(null, 204);
    })
    .post('/:id/restore', async (c) => {
      const id = c.req.param('id');
      await writing(sequelize, (transaction) => restoreSources([id], transaction));
      events.send({ type: 'shelf' });
      return c.json(await shelfEntry(await findSource(id)));
    })
    .get('/:id/peaks', query(v.object({ step: wholeNumber })), async (c) =>
      c.body(await readStored(c.req.param('id'), 'peaks', c.req.valid('query').step, data), 200, forever),
    )
    // Sources from before they were measured have none.
    .get('/:id/powers', query(v.object({ step: wholeNumber })), async (c) =>
      c.body(await readStored(c.req.param('id'), 'powers', c.req.valid('query').step, data), 200, forever),
    )
    .get('/:id/samples', query(v.object({ start: wholeNumber, count: wholeNumber })), async (c) => {
      const { key, facts, reading } = await findSource(c.req.param('id'));
      const { start, count } = c.req.valid('query');
      if (count > MOST_FRAMES || start + count > facts.frames) {
        throw new Problem(
          400,
          'bad-request',
          `start, count: the source has ${facts.frames} frames; ask for some of them.`,
        );
      }
      const sound = await openSourceSound(data.source(key), facts, reading);
      try {
        const samples = new Float32Array(count * facts.channels);
        interleave(await sound.read(start, count), samples);
        return c.body(new Uint8Array(samples.buffer), 200, forever);
      } finally {
        await sound.close();
      }
    })
    .get('/:id/file', async (c) => {
      const { key, name, facts } = await findSource(c.req.param('id'));
      const stream = Readable.toWeb(createReadStream(data.source(key).original)) as ReadableStream;
      return c.body(stream, 200, {
        'Content-Type': 'application/octet-stream',
        'Content-Length': String(facts.bytes),
        'Content-Disposition': attachment(name),
      });
    });

/** The header that makes a browser keep a file under its name. */
export function attachment(name: string): string {
  const plain = name.replace(/\p{Cc}/gu, '_');
  return contentDisposition(plain, { fallback: inLatin(plain) });
}
