import { makeZip, predictLength } from 'client-zip';
import { Hono } from 'hono';
import type { Sequelize } from 'sequelize';
import { wholeBackup } from '../exports/backup.ts';
import type { DataFolder } from '../storage/data-folder.ts';
import { attachment } from './sources.ts';

/** The whole data folder as one ZIP, made while everything goes on. */
export const backupRoutes = (data: DataFolder, sequelize: Sequelize) =>
  new Hono().get('/', async (c) => {
    // Whoever asks for the head alone never reads a body, which is what lets the copy of the database go.
    if (c.req.method === 'HEAD') return c.body(null, 200, { 'Content-Type': 'application/zip' });
    const lastModified = new Date();
    const backup = await wholeBackup(data, sequelize);
    const entries = backup.entries.map(({ path, bytes, open }) => ({ name: path, size: bytes, lastModified, open }));
    async function* contents() {
      try {
        for (const { open, ...entry } of entries) yield { ...entry, input: open() };
      } finally {
        await backup.close();
      }
    }
    const day = lastModified.toISOString().slice(0, 10);
    return c.body(makeZip(contents()), 200, {
      'Content-Type': 'application/zip',
      'Content-Length': String(predictLength(entries)),
      'Content-Disposition': attachment(`tambur-backup-${day}.zip`),
    });
  });
