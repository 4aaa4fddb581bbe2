import { parseSettings, readDocument } from '@tambur/core';
import { Hono } from 'hono';
import * as v from 'valibot';
import type { Events } from '../answers/events.ts';
import { notFound } from '../answers/problem.ts';
import { Source } from '../models/index.ts';
import type { Wholes } from '../wholes/wholes.ts';
import { jsonBody } from './body.ts';
import { soundRoutes } from './sound.ts';

const orderSchema = v.strictObject({
  /** Under which the page hears of its progress. */
  progressId: v.pipe(v.string(), v.uuid()),
  source: v.string(),
  /** Both are read as any document is. */
  settings: v.unknown(),
  target: v.unknown(),
  /** A file's name, and no more than that. */
  stem: v.pipe(v.string(), v.nonEmpty(), v.maxLength(120), v.regex(/^[^/\\\p{Cc}]+$/u, 'it is not a file name')),
});

/** Clips as a whole, made for a page that has no room for them; for as long as somebody waits for one. */
export const wholeRoutes = (wholes: Wholes, events: Events) =>
  new Hono()
    .post('/', jsonBody(orderSchema), async (c) => {
      const { progressId, source: id, stem, ...order } = c.req.valid('json');
      const source = await Source.findOne({ where: { id, deletedAt: null } });
      if (!source) throw notFound('source');
      const settings = parseSettings(order.settings);
      const target = readDocument('sheet', order.target, 'The sheet');
      const view = await wholes.make(
        source,
        { settings, target, stem },
        { signal: c.req.raw.signal, onProgress: (part) => events.send({ type: 'whole', progressId, part }) },
      );
      return c.json(view, 201);
    })
    .post('/:id/device', async (c) => c.json(await wholes.playOnDevice(c.req.param('id'), c.req.raw.signal)))
    .route(
      '/device',
      soundRoutes((id) => ({ ...wholes.findOnDevice(id), reading: null })),
    )
    .route(
      '/',
      soundRoutes((id) => ({ ...wholes.find(id), reading: null })),
    );
