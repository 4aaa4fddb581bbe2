import { existsSync } from 'node:fs';
import { rm, writeFile } from 'node:fs/promises';
import { join, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import { parseArgs } from 'node:util';
import { serve } from '@hono/node-server';
import { pino } from 'pino';
import { createApp } from './app.ts';
import { Builder } from './builds/builder.ts';
import { seedDemo } from './demo.ts';
import { Events } from './events.ts';
import { Importer } from './imports/importer.ts';
import { migrate } from './migrations/index.ts';
import { openDatabase } from './models/index.ts';
import { Speaker } from './speech/speaker.ts';
import { DataFolder } from './storage/data-folder.ts';
import { lockFolder } from './storage/lock.ts';
import { tidy } from './tidy.ts';

/** This file runs as build/server/main.js. */
const here = fileURLToPath(new URL('.', import.meta.url));
const projectFolder = resolve(here, '../..');

const say = (text: string) => process.stdout.write(`${text}\n`);

/** Ends with one sentence for what the user can mend. */
function giveUp(text: string): never {
  process.stderr.write(`${text}\n`);
  process.exit(2);
}

function readOptions() {
  try {
    return parseArgs({
      options: {
        port: { type: 'string', default: process.env.TAMBUR_PORT ?? '4180' },
        data: { type: 'string', default: process.env.TAMBUR_DATA ?? join(projectFolder, 'data') },
        empty: { type: 'boolean', default: false },
        open: { type: 'boolean', default: false },
      },
    }).values;
  } catch (error) {
    return giveUp(`${(error as Error).message}. See ./start --help.`);
  }
}

const values = readOptions();
const wantedPort = Number(values.port);
if (!Number.isInteger(wantedPort) || wantedPort < 0 || wantedPort > 65535) {
  giveUp(`--port ${values.port} is no port; give a number from 0 (any free one) to 65535.`);
}

const log = pino({ level: process.env.TAMBUR_LOG ?? 'warn' }, pino.destination(2));
const data = new DataFolder(resolve(values.data));
const wantsDemo = join(data.root, 'demo.wanted');
try {
  const isNew = !existsSync(data.database);
  await data.create();
  // Stands until the demo is complete, so that a stop in between does not leave half of it.
  if (isNew && !values.empty) await writeFile(wantsDemo, '');
} catch (error) {
  giveUp(
    `The data folder ${data.root} cannot be written (${(error as NodeJS.ErrnoException).code}); choose another with --data.`,
  );
}
const lock = lockFolder(data.root);
if ('heldBy' in lock) {
  giveUp(
    `The data folder ${data.root} is in use by another Tambur (process ${lock.heldBy}); end that one, or choose another with --data.`,
  );
}
const { release } = lock;
const sequelize = await openDatabase(data.database);
await migrate(sequelize);
const events = new Events();
const importer = new Importer(data, join(here, 'import-worker.js'));
const speaker = new Speaker(join(here, 'speech-worker.js'));
const builder = new Builder(data, sequelize, events, log, join(here, 'build-worker.js'));
for (const sentence of await tidy(data, importer, builder)) say(sentence);
if (existsSync(wantsDemo)) {
  say('Putting the demo data into the empty data folder ...');
  await seedDemo(join(projectFolder, 'demo'), importer, sequelize);
  await rm(wantsDemo);
}

let port = wantedPort;
const parts = { data, sequelize, importer, builder, speaker, events, log };
const app = createApp(parts, { port: () => port, webFolder: join(projectFolder, 'build/web') });
const server = serve({ fetch: app.fetch, hostname: '127.0.0.1', port: wantedPort }, async (address) => {
  port = address.port;
  const url = `http://127.0.0.1:${port}`;
  say(`Tambur is at ${url}  (end it with Ctrl C)`);
  if (values.open) {
    const { spawn } = await import('node:child_process');
    const opener = process.platform === 'darwin' ? 'open' : 'xdg-open';
    spawn(opener, [url], { detached: true, stdio: 'ignore' })
      .on('error', () => say(`Open ${url} in a browser.`))
      .unref();
  }
});
server.on('error', (error: NodeJS.ErrnoException) => {
  giveUp(
    error.code === 'EADDRINUSE'
      ? `Port ${wantedPort} is in use; choose another with --port.`
      : `The server could not start: ${error.message}`,
  );
});

async function end(): Promise<void> {
  server.close();
  if ('closeAllConnections' in server) server.closeAllConnections();
  await Promise.all([importer.close(), builder.close(), speaker.close()]);
  await sequelize.close();
  release();
  process.exit(0);
}
process.once('SIGINT', end);
process.once('SIGTERM', end);
