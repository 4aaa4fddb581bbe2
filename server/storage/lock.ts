import { readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';

/** The process that holds the lock, if it is still one of ours. */
function holderOf(file: string): number | null {
  try {
    const pid = Number(readFileSync(file, 'utf8'));
    // A number may have been given to another program since; its command line tells.
    return pid !== process.pid && readFileSync(`/proc/${pid}/cmdline`, 'utf8').includes('main.js') ? pid : null;
  } catch {
    // No lock, or no such process: nobody holds it.
    return null;
  }
}

/**
 * Takes a data folder for this process, so that a second server does not tidy away what the first is working on. A lock
 * that a sudden end left behind counts for nothing.
 * @returns the process that holds the folder already, or a function that gives it free
 */
export function lockFolder(folder: string): { readonly heldBy: number } | { readonly release: () => void } {
  const file = join(folder, 'lock');
  const heldBy = holderOf(file);
  if (heldBy !== null) return { heldBy };
  writeFileSync(file, String(process.pid));
  return { release: () => rmSync(file, { force: true }) };
}
