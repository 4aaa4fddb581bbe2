import { unwatchFile, watchFile } from 'node:fs';

/** How often files are looked at. Asking works on every file system, on shared and mounted ones too. */
const LOOK_MS = 300;

/**
 * Calls `changed` whenever one of the files has another time or size; one call ends before the next begins. It answers with the
 * files to follow from then on. Ends only with the process.
 */
export async function followFiles(files: readonly string[], changed: () => Promise<readonly string[]>): Promise<never> {
  let followed = files;
  for (;;) {
    await new Promise<void>((resolve) => {
      for (const file of followed) {
        watchFile(file, { interval: LOOK_MS }, (now, before) => {
          // A file that is being replaced is not there for a moment.
          if (now.mtimeMs !== 0 && (now.mtimeMs !== before.mtimeMs || now.size !== before.size)) resolve();
        });
      }
    });
    for (const file of followed) unwatchFile(file);
    followed = await changed();
  }
}
