import { readFile } from 'node:fs/promises';
import { Hono } from 'hono';
import { notFound } from '../answers/problem.ts';
import type { DataFolder } from '../storage/data-folder.ts';
import { keepList, listBytesOf } from '../storage/own-lists.ts';
import { bodyOf } from './body.ts';

/** List files that devices have now: kept by their hashes, for jobs that start from them. */
export const listRoutes = (data: DataFolder) =>
  new Hono()
    .post('/', async (c) => c.json({ sha256: await keepList(data, await listBytesOf(bodyOf(c))) }, 201))
    .get('/:sha256{[0-9a-f]{64}}', async (c) => {
      const bytes = await readFile(data.list(c.req.param('sha256'))).catch(() => null);
      if (!bytes) throw notFound('list');
      return c.body(new Uint8Array(bytes), 200, { 'Content-Type': 'application/octet-stream' });
    });
