import { randomUUID } from 'node:crypto';
import { rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Worker } from 'node:worker_threads';
import { EXIT } from './exit.ts';
import { commands } from './list.ts';

/**
 * What decodes files runs in a thread of its own: a file in which its decoder loses its way, or which wants all of the
 * memory, ends that thread and not the machine's patience.
 */

/** No sign of life for so long, and a decoder has lost its way. */
const STALLED_MS = 60_000;
/** MB of JavaScript's own memory. */
const MOST_MEGABYTES = 2048;
/** Bytes of the whole process, buffers and all. */
const MOST_BYTES = 4_000_000_000;
const MEMORY_LOOK_MS = 250;
const WANTS_TOO_MUCH =
  'A file needs more memory than Tambur gives it; get a complete copy of it, or run this again without it.';

function fail(words: string): never {
  process.stderr.write(`${words}\n`);
  process.exit(EXIT.failed);
}

/** Removes a folder, if it is there, when this process ends: by itself, or because somebody wants it to. */
function removeAtEnd(folder: string): void {
  const remove = () => rmSync(folder, { recursive: true, force: true, maxRetries: 3 });
  process.once('exit', remove);
  for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP'] as const) {
    process.once(signal, () => {
      remove();
      process.kill(process.pid, signal);
    });
  }
}

/** Runs a command's file in a thread, and ends it where it shows no sign of life or wants too much. */
function runWatched(file: URL): void {
  const temporary = join(tmpdir(), `tambur-${randomUUID()}`);
  removeAtEnd(temporary);
  const worker = new Worker(file, {
    workerData: { temporary },
    argv: process.argv.slice(2),
    execArgv: process.execArgv,
    resourceLimits: { maxOldGenerationSizeMb: MOST_MEGABYTES },
  });

  let watch: NodeJS.Timeout | undefined;
  worker.on('message', (what: 'works' | 'rests') => {
    clearTimeout(watch);
    if (what === 'rests') return;
    watch = setTimeout(
      () =>
        fail(
          'A file is damaged in a way that stops its decoder; get a complete copy of it, or run this again without it.',
        ),
      STALLED_MS,
    );
  });
  setInterval(() => {
    if (process.memoryUsage.rss() > MOST_BYTES) fail(WANTS_TOO_MUCH);
  }, MEMORY_LOOK_MS).unref();
  worker.on('error', (error: NodeJS.ErrnoException) => {
    fail(
      error.code === 'ERR_WORKER_OUT_OF_MEMORY'
        ? WANTS_TOO_MUCH
        : `This command failed in a way that Tambur did not foresee (${error.message}); please report it.`,
    );
  });
  worker.on('exit', (code) => {
    clearTimeout(watch);
    process.exitCode = code;
  });
}

// Whoever reads what is said may have had enough of it: `./tambur targets | head`.
process.stdout.on('error', (error: NodeJS.ErrnoException) => {
  if (error.code !== 'EPIPE') throw error;
  process.exit(EXIT.met);
});

// Every command is a bundle of its own, so that no more is loaded than it needs.
const [called] = process.argv.slice(2).flatMap((word) => commands.find(({ name }) => name === word) ?? []);
if (called === undefined) await (await import('./run.ts')).run();
else {
  const file = new URL(`./${called.name}.js`, import.meta.url);
  // What decodes nothing needs no watch, and is there sooner without.
  if (called.isWatched) runWatched(file);
  else await import(file.href);
}
