import { statSync } from 'node:fs';
import { setTimeout as wait } from 'node:timers/promises';

/** How often files are looked at. Asking works on every file system, on shared and mounted ones too. */
const LOOK_MS = 300;

/** What tells that a file is another one: its time and size. Null while it cannot be looked at; who reads it says why. */
function stampOf(file: string): string | null {
  try {
    const { mtimeMs, size } = statSync(file);
    return `${mtimeMs} ${size}`;
  } catch {
    return null;
  }
}

/** The files that something is made of, each as it was before it was read: what changes while they are worked on counts. */
export class FollowedFiles {
  private readonly stamps = new Map<string, string | null>();

  /** Takes note of a file that is about to be read, and gives it back. */
  take(file: string): string {
    if (!this.stamps.has(file)) this.stamps.set(file, stampOf(file));
    return file;
  }

  get all(): readonly string[] {
    return [...this.stamps.keys()];
  }

  /** Waits until one of them is another one. A file that is being replaced is not there for a moment. */
  async change(): Promise<void> {
    const isOther = ([file, before]: [string, string | null]) => {
      const now = stampOf(file);
      return now !== null && now !== before;
    };
    while (![...this.stamps].some(isOther)) await wait(LOOK_MS);
  }
}
