import { Hono } from 'hono';
import * as v from 'valibot';
import type { Importer } from '../imports/importer.ts';
import { bodyOf, lengthOf, query } from './body.ts';

/** What a file is, for pages that have not the decoder to tell. It is not put on the shelf. */
export const checkRoutes = (importer: Importer) =>
  new Hono().post('/', query(v.object({ name: v.string() })), async (c) => {
    const options = { length: lengthOf(c), signal: c.req.raw.signal };
    const facts = await importer.inspectFile(c.req.valid('query').name, bodyOf(c), options);
    return c.json({ facts });
  });
