import { mkdir, open, readdir, rename, rm } from 'node:fs/promises';
import { dirname, join } from 'node:path';

/**
 * Where everything lives on disk. Names in here come from hashes and ids, never from a user's text. A name that ends in
 * `.part` is unfinished: it is renamed when it is complete and safely on the disk, and removed at the next start
 * otherwise.
 */
export class DataFolder {
  readonly root: string;

  constructor(root: string) {
    this.root = root;
  }

  get database(): string {
    return join(this.root, 'tambur.sqlite');
  }

  get uploads(): string {
    return join(this.root, 'uploads');
  }

  get sources(): string {
    return join(this.root, 'sources');
  }

  get deliveries(): string {
    return join(this.root, 'deliveries');
  }

  upload(id: string): string {
    return join(this.uploads, `${id}.part`);
  }

  /** @param key the source's: its hash, and how it is read */
  source(key: string): SourceFiles {
    return sourceFiles(join(this.sources, key));
  }

  unfinishedSource(key: string): SourceFiles {
    return sourceFiles(join(this.sources, `${key}.part`));
  }

  delivery(id: string): string {
    return join(this.deliveries, id);
  }

  unfinishedDelivery(id: string): string {
    return join(this.deliveries, `${id}.part`);
  }

  async create(): Promise<void> {
    for (const folder of [this.uploads, this.sources, this.deliveries]) await mkdir(folder, { recursive: true });
  }
}

/** The files that make up one source. */
export interface SourceFiles {
  readonly folder: string;
  /** The bytes as they arrived. */
  readonly original: string;
  /** Decoded sound: float32, little-endian, frame by frame. */
  readonly sound: string;
  /** Peaks of every stored step, finest first: float32, little-endian. */
  readonly peaks: string;
}

const sourceFiles = (folder: string): SourceFiles => ({
  folder,
  original: join(folder, 'original'),
  sound: join(folder, 'sound.f32'),
  peaks: join(folder, 'peaks.f32'),
});

/** Puts a file's bytes, or a folder's entries, safely on the disk. */
export async function flush(path: string): Promise<void> {
  const handle = await open(path, 'r');
  try {
    await handle.sync();
  } finally {
    await handle.close();
  }
}

/** Makes an unfinished file or folder visible under its real name, durably. */
export async function publish(unfinished: string, finished: string): Promise<void> {
  await flush(unfinished);
  await rename(unfinished, finished);
  await flush(dirname(finished));
}

/** Removes whatever `isStray` names inside `folder`; gives back how many entries went. */
export async function removeStray(folder: string, isStray: (name: string) => boolean): Promise<number> {
  const stray = (await readdir(folder)).filter(isStray);
  for (const name of stray) await rm(join(folder, name), { recursive: true, force: true });
  return stray.length;
}
