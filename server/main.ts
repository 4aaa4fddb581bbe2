import { existsSync } from 'node:fs';
import { rm, writeFile } from 'node:fs/promises';
import { join, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import { parseArgs } from 'node:util';
import { serve } from '@hono/node-server';
import { InputError, shortened } from '@tambur/core';
import { pino } from 'pino';
import { Events } from './answers/events.ts';
import { createApp } from './app.ts';
import { Builder } from './builds/builder.ts';
import { unpackBackup } from './exports/backup.ts';
import { ExportReader } from './exports/export-reader.ts';
import { Importer } from './imports/importer.ts';
import { JobChanges } from './jobs/jobs.ts';
import { Speaker } from './speech/speaker.ts';
import { seedDemo } from './start/demo.ts';
import { tidy } from './start/tidy.ts';
import { DataFolder } from './storage/data-folder.ts';
import { backUp } from './storage/database.ts';
import { diskTrouble } from './storage/disk.ts';
import { lockFolder } from './storage/lock.ts';
import { claimFolder, type Opening, openFolder } from './storage/opening.ts';
import { troubleWords, verifyAll, verifySome } from './storage/verify.ts';
import { Wholes } from './wholes/wholes.ts';

/** This file runs as build/server/main.js. */
const here = fileURLToPath(new URL('.', import.meta.url));
const projectFolder = resolve(here, '../..');

const DAY_MS = 86_400_000;
const LOOK_AFTER_MS = 10_000;

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
        restore: { type: 'boolean', default: false },
        recover: { type: 'boolean', default: false },
        from: { type: 'string' },
        verify: { type: 'boolean', default: false },
      },
    }).values;
  } catch (error) {
    return giveUp(`${(error as Error).message}. See ./start --help.`);
  }
}

const values = readOptions();
const wantedPort = Number(values.port);
if (!Number.isInteger(wantedPort) || wantedPort < 0 || wantedPort > 65535) {
  giveUp(`--port ${values.port} is not a port; give a number from 0 (any free one) to 65535.`);
}

const log = pino({ level: process.env.TAMBUR_LOG ?? 'warn' }, pino.destination(2));
const data = new DataFolder(resolve(values.data));
const wantsDemo = join(data.root, 'demo.wanted');
const opening: Opening = values.restore ? 'restore' : values.recover ? 'recover' : 'usual';

/** Ends with what the user can do about it, where there is something. */
function giveUpOn(error: unknown): never {
  if (error instanceof InputError) giveUp(error.message);
  if (error instanceof SyntaxError) {
    giveUp(
      `The database ${data.database} is damaged (an entry is no JSON: ${shortened(error.message, 100)}); start with --restore to go back to the newest good backup, or with --recover to keep the sources and begin without jobs.`,
    );
  }
  const trouble = diskTrouble(error);
  if (trouble === null) throw error;
  log.debug({ err: error }, 'the data folder could not be opened');
  return giveUp(`The data folder ${data.root} cannot be used: ${trouble}.`);
}

async function openData() {
  try {
    if (values.from !== undefined) {
      await unpackBackup(resolve(values.from), data);
      say(`Put the backup ${values.from} into ${data.root}.`);
    }
    const claim = await claimFolder(data);
    const lock = await lockFolder(data.root, (error) => {
      log.fatal({ err: error }, 'another process took the data folder');
      process.exit(1);
    });
    if ('heldBy' in lock) {
      const holder = lock.heldBy === null ? '' : ` (process ${lock.heldBy})`;
      giveUp(
        `The data folder ${data.root} is in use by another Tambur${holder}; end that one, or choose another with --data.`,
      );
    }
    // Stands until the demo is complete, so that a stop in between does not leave half of it.
    if (claim.isNew && !values.empty) await writeFile(wantsDemo, '');
    return { ...(await openFolder(data, claim, opening)), release: lock.release };
  } catch (error) {
    return giveUpOn(error);
  }
}

const { sequelize, said, release } = await openData();
for (const sentence of said) say(sentence);
const events = new Events();
const importer = new Importer(data, sequelize, join(here, 'import-worker.js'));
const exportReader = new ExportReader(join(here, 'export-worker.js'));
const speaker = new Speaker(join(here, 'speech-worker.js'));
const changes = new JobChanges(data, sequelize, events);
const builder = new Builder(data, sequelize, events, log, join(here, 'build-worker.js'));
const wholes = new Wholes(data, join(here, 'build-worker.js'), join(here, 'device-worker.js'));
try {
  for (const sentence of await tidy(data, sequelize, importer, builder)) say(sentence);
  if (existsSync(wantsDemo)) {
    say('Putting the demo data into the empty data folder ...');
    await seedDemo(join(projectFolder, 'demo'), importer, sequelize);
    await rm(wantsDemo);
  }
} catch (error) {
  giveUpOn(error);
}
if (values.verify) {
  const { files, troubles } = await verifyAll(data, sequelize);
  say(
    troubles.length
      ? `${troubles.length} of ${files} files are damaged: ${troubleWords(troubles)}. Put them back from a backup.`
      : `All ${files} files that have a hash are unchanged.`,
  );
  await end(troubles.length ? 1 : 0);
}
const backups = setInterval(() => {
  backUp(data, sequelize).catch((error: unknown) => log.error({ err: error }, 'the daily backup failed'));
}, DAY_MS);

// What nobody caught from here on is a mistake of ours; it must not take other people's work with it.
process.on('uncaughtException', (error) => log.error({ err: error }, 'an uncaught error'));
process.on('unhandledRejection', (reason) => log.error({ err: reason }, 'an uncaught rejection'));

let port = wantedPort;
const parts = { data, sequelize, importer, exportReader, builder, wholes, changes, speaker, events, log };
const app = createApp(parts, { port: () => port, webFolder: join(projectFolder, 'build/web') });
// An upload may take as long as it likes; its headers may not.
const serverOptions = { requestTimeout: 0, headersTimeout: 60_000 };
const listening = { fetch: app.fetch, hostname: '127.0.0.1', port: wantedPort, serverOptions };
const server = serve(listening, async (address) => {
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

/** Some of the originals are compared with their hashes at each start, while all else goes on. */
async function lookAtOriginals(): Promise<void> {
  const { troubles } = await verifySome(data, sequelize);
  if (troubles.length) {
    say(
      `The data folder has damaged files: ${troubleWords(troubles)}. Check all files with --verify, and restore the damaged ones from a backup.`,
    );
  }
}
// Whoever opens the page comes first.
setTimeout(() => {
  lookAtOriginals().catch((error: unknown) => log.error({ err: error }, 'the originals could not be checked'));
}, LOOK_AFTER_MS).unref();

async function endServer(): Promise<void> {
  clearInterval(backups);
  server.close();
  if ('closeAllConnections' in server) server.closeAllConnections();
  await end(0);
}
process.once('SIGINT', endServer);
process.once('SIGTERM', endServer);

async function end(code: number): Promise<void> {
  await Promise.all([importer.close(), exportReader.close(), builder.close(), wholes.close(), speaker.close()]);
  await sequelize.close();
  await release();
  process.exit(code);
}
