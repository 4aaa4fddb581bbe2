import { rm } from 'node:fs/promises';
import { join } from 'node:path';
import { lock } from 'proper-lockfile';
import { readJson, writeWhole } from './disk.ts';

/** A lock that nobody has renewed for so long counts for nothing: its process is gone, or another has its number. */
const STALE_MS = 10_000;
const RENEWED_MS = 2_000;

/** Who holds a lock, beside it. */
interface Holder {
  readonly pid: number;
}

const isHolder = (value: unknown): value is Holder =>
  typeof value === 'object' && value !== null && 'pid' in value && Number.isInteger(value.pid);

/** True while a process of that number runs; one that belongs to somebody else counts too. */
function isRunning(pid: number): boolean {
  try {
    process.kill(pid, 0);
    return true;
  } catch (error) {
    return (error as NodeJS.ErrnoException).code === 'EPERM';
  }
}

/**
 * Takes a data folder for this process, so that a second server does not tidy away what the first is working on. The lock
 * of a process that is gone counts for nothing at once; that of one whose number another program has now, after 10 s.
 * @param onLost called where another process took the lock in spite of this
 * @returns the process that holds the folder already, or a function that gives it free
 */
export async function lockFolder(
  folder: string,
  onLost: (error: Error) => void,
): Promise<{ readonly heldBy: number | null } | { readonly release: () => Promise<void> }> {
  const lockfilePath = join(folder, 'lock.dir');
  const holderFile = join(folder, 'lock.json');
  const before = await readJson(holderFile);
  const heldBy = isHolder(before) ? before.pid : null;
  const isGone = heldBy !== null && heldBy !== process.pid && !isRunning(heldBy);
  if (isGone) await rm(lockfilePath, { recursive: true, force: true });
  try {
    const release = await lock(folder, {
      lockfilePath,
      stale: STALE_MS,
      update: RENEWED_MS,
      onCompromised: onLost,
    });
    await writeWhole(holderFile, JSON.stringify({ pid: process.pid } satisfies Holder));
    return {
      release: async () => {
        await rm(holderFile, { force: true });
        await release();
      },
    };
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code !== 'ELOCKED') throw error;
    return { heldBy };
  }
}
