import { serveStatic } from '@hono/node-server/serve-static';
import { Hono } from 'hono';
import type { Logger } from 'pino';
import type { Sequelize } from 'sequelize';
import type { Events } from './answers/events.ts';
import { Problem } from './answers/problem.ts';
import type { Builder } from './builds/builder.ts';
import type { ExportReader } from './exports/export-reader.ts';
import type { Importer } from './imports/importer.ts';
import type { JobChanges } from './jobs/jobs.ts';
import { backupRoutes } from './routes/backup.ts';
import { limitBodies } from './routes/body.ts';
import { checkRoutes } from './routes/check.ts';
import { deliveryRoutes } from './routes/deliveries.ts';
import { answerErrors } from './routes/errors.ts';
import { eventRoutes } from './routes/events.ts';
import { jobRoutes } from './routes/jobs.ts';
import { listRoutes } from './routes/lists.ts';
import { onlyLocal, safeHeaders } from './routes/security.ts';
import { sourceRoutes } from './routes/sources.ts';
import { speechRoutes } from './routes/speech.ts';
import { targetRoutes } from './routes/targets.ts';
import { wholeRoutes } from './routes/wholes.ts';
import type { Speaker } from './speech/speaker.ts';
import type { DataFolder } from './storage/data-folder.ts';
import type { Wholes } from './wholes/wholes.ts';

export interface Parts {
  readonly data: DataFolder;
  readonly sequelize: Sequelize;
  readonly importer: Importer;
  readonly exportReader: ExportReader;
  readonly builder: Builder;
  readonly wholes: Wholes;
  readonly changes: JobChanges;
  readonly speaker: Speaker;
  readonly events: Events;
  readonly log: Logger;
}

const apiRoutes = ({ data, sequelize, importer, exportReader, builder, wholes, changes, speaker, events }: Parts) =>
  new Hono()
    .route('/targets', targetRoutes(sequelize))
    .route('/check', checkRoutes(importer))
    .route('/sources', sourceRoutes(data, sequelize, importer, events))
    .route('/speech', speechRoutes(speaker))
    .route('/jobs', jobRoutes({ data, sequelize, changes, builder, importer, exportReader, events }))
    .route('/deliveries', deliveryRoutes(data, builder))
    .route('/lists', listRoutes(data))
    .route('/backup', backupRoutes(data, sequelize))
    .route('/wholes', wholeRoutes(wholes, events))
    .route('/events', eventRoutes(events));

/** Types of every route: the page's client is made from them. */
export type Api = ReturnType<typeof apiRoutes>;

/** The whole server: the API below /api, the page everywhere else. */
export function createApp(parts: Parts, options: { readonly port: () => number; readonly webFolder: string }): Hono {
  const app = new Hono();
  app.onError(answerErrors(parts.log));
  app.use(safeHeaders, onlyLocal(options.port));
  app.use('/api/*', limitBodies);
  app.route('/api', apiRoutes(parts));
  app.all('/api/*', () => {
    throw new Problem(404, 'not-found', 'The API has no such address.');
  });
  // The build leaves a compressed copy beside each file of the page.
  const page = { root: options.webFolder, precompressed: true };
  app.use(
    '/assets/*',
    serveStatic({
      ...page,
      onFound: (_, c) => c.header('Cache-Control', 'public, max-age=31536000, immutable'),
    }),
  );
  app.use(serveStatic(page));
  // Views are addresses of the page itself.
  app.get('*', serveStatic({ ...page, path: 'index.html' }));
  return app;
}
