import { Readable } from 'node:stream';
import { Hono } from 'hono';
import * as v from 'valibot';
import type { Importer } from '../imports/importer.ts';
import { query } from './body.ts';

/** What a file is, for pages that have not the decoder to tell. It is not put on the shelf. */
export const checkRoutes = (importer: Importer) =>
  new Hono().post('/', query(v.object({ name: v.string() })), async (c) => {
    const { body, signal } = c.req.raw;
    const length = Number(c.req.header('content-length') ?? Number.NaN);
    const chunks = Readable.fromWeb((body ?? new Blob([]).stream()) as never) as AsyncIterable<Uint8Array>;
    const facts = await importer.look(c.req.valid('query').name, chunks, {
      length: Number.isNaN(length) ? undefined : length,
      signal,
    });
    return c.json({ facts });
  });
