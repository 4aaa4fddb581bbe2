import { inLatin, readingSchema } from '@tambur/core';
import contentDisposition from 'content-disposition';
import { Hono } from 'hono';
import type { Sequelize } from 'sequelize';
import * as v from 'valibot';
import type { Events } from '../answers/events.ts';
import { notFound } from '../answers/problem.ts';
import { SHELF_FILTERS, SHELF_ORDERS, type ShelfList, type ShelfView } from '../answers/views.ts';
import { type Importer, shownName } from '../imports/importer.ts';
import { Source, writing } from '../models/index.ts';
import { shelf, shelfEntry } from '../models/listings.ts';
import { deleteSource, restoreSources, sourceView } from '../shelf/shelf.ts';
import { shelfList } from '../shelf/shelf-list.ts';
import type { DataFolder } from '../storage/data-folder.ts';
import { renewRecord } from '../storage/source-record.ts';
import { bodyOf, jsonBody, jsonText, lengthOf, query, wholeNumber } from './body.ts';
import { fileStream } from './file-stream.ts';
import { soundRoutes } from './sound.ts';

async function findSource(id: string): Promise<Source> {
  const source = await Source.findOne({ where: { id, deletedAt: null } });
  if (!source) throw notFound('source');
  return source;
}

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
    .route(
      '/',
      soundRoutes(async (id) => {
        const { key, facts, reading } = await findSource(id);
        return { files: data.source(key), facts, reading };
      }),
    )
    .get('/:id/file', async (c) => {
      const { key, name, facts } = await findSource(c.req.param('id'));
      return c.body(await fileStream(data.source(key).original, name), 200, {
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
