import { createReadStream } from 'node:fs';
import { type FileHandle, open, rename, rm } from 'node:fs/promises';
import { Readable } from 'node:stream';
import { vValidator } from '@hono/valibot-validator';
import { Hono } from 'hono';
import * as v from 'valibot';
import type { Importer } from '../imports/importer.ts';
import { Clip, Job, Source } from '../models/index.ts';
import { notFound, Problem } from '../problems.ts';
import type { DataFolder } from '../storage/data-folder.ts';
import { peaksRange, readSoundBytes } from '../storage/sound-file.ts';
import type { SourceView } from '../views.ts';

export const sourceView = ({ id, name, sha256, facts }: Source): SourceView => ({ id, name, sha256, facts });

/** Most frames that one request for samples gives. */
const MOST_FRAMES = 1 << 20;

const wholeNumber = v.pipe(v.string(), v.regex(/^\d{1,15}$/), v.transform(Number));

async function findSource(id: string): Promise<Source> {
  const source = await Source.findByPk(id);
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

/** Numbers of a source never change, so that pages may keep them. */
const forever = { 'Content-Type': 'application/octet-stream', 'Cache-Control': 'private, max-age=31536000, immutable' };

/** The shelf: files in, their facts, peaks and samples out. */
export const sourceRoutes = (data: DataFolder, importer: Importer) =>
  new Hono()
    .get('/', async (c) => c.json((await Source.findAll({ order: [['createdAt', 'DESC']] })).map(sourceView)))
    .post('/', vValidator('query', v.object({ name: v.string() })), async (c) => {
      const body = c.req.raw.body;
      const length = Number(c.req.header('content-length') ?? Number.NaN);
      const chunks = body ? (Readable.fromWeb(body as never) as AsyncIterable<Uint8Array>) : emptyBody();
      const source = await importer.take(c.req.valid('query').name, chunks, Number.isNaN(length) ? undefined : length);
      return c.json(sourceView(source), 201);
    })
    .delete('/:id', async (c) => {
      const source = await findSource(c.req.param('id'));
      const clip = await Clip.findOne({ where: { sourceId: source.id } });
      if (clip) {
        const job = await Job.findByPk(clip.jobId);
        const message = `${source.name} is used by the clip ${clip.settings.name} of ${job?.title}; remove that clip first.`;
        throw new Problem(409, 'in-use', message);
      }
      // Out of sight first, so that a stop in between leaves a stray folder and no broken source.
      const { folder } = data.source(source.sha256);
      await source.destroy();
      const goner = data.unfinishedSource(source.sha256).folder;
      await rename(folder, goner);
      await rm(goner, { recursive: true, force: true });
      return c.body(null, 204);
    })
    .get('/:id/peaks', vValidator('query', v.object({ step: wholeNumber })), async (c) => {
      const { sha256, facts } = await findSource(c.req.param('id'));
      const range = peaksRange(facts, c.req.valid('query').step);
      if (!range) throw new Problem(400, 'bad-request', 'step: there are no peaks of that step.');
      const bytes = new Uint8Array(range.length);
      await withFile(data.source(sha256).peaks, (file) => file.read(bytes, 0, range.length, range.offset));
      return c.body(bytes, 200, forever);
    })
    .get('/:id/samples', vValidator('query', v.object({ start: wholeNumber, count: wholeNumber })), async (c) => {
      const { sha256, facts } = await findSource(c.req.param('id'));
      const { start, count } = c.req.valid('query');
      if (count > MOST_FRAMES || start + count > facts.frames) {
        throw new Problem(
          400,
          'bad-request',
          `start, count: the source has ${facts.frames} frames; ask for some of them.`,
        );
      }
      const bytes = await withFile(data.source(sha256).sound, (file) =>
        readSoundBytes(file, facts.channels, start, count),
      );
      return c.body(bytes, 200, forever);
    })
    .get('/:id/file', async (c) => {
      const { sha256, name, facts } = await findSource(c.req.param('id'));
      const stream = Readable.toWeb(createReadStream(data.source(sha256).original)) as ReadableStream;
      return c.body(stream, 200, {
        'Content-Type': 'application/octet-stream',
        'Content-Length': String(facts.bytes),
        'Content-Disposition': attachment(name),
      });
    });

async function* emptyBody(): AsyncGenerator<Uint8Array> {}

/** A Content-Disposition that carries any name (RFC 6266, RFC 8187). */
export const attachment = (name: string) =>
  `attachment; filename="${name.replace(/[^\x20-\x7e]|["\\]/g, '_')}"; filename*=UTF-8''${encodeURIComponent(name)}`;
