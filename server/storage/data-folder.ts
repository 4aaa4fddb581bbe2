import { mkdir, readdir, rm } from 'node:fs/promises';
import { join } from 'node:path';

/** What ends so is unfinished, and ours. */
export const isUnfinished = (name: string): boolean => name.endsWith('.part');

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

  /** Says that the folder is Tambur's, and which one: the database repeats its id. */
  get marker(): string {
    return join(this.root, 'tambur-data.json');
  }

  /** Copies of the database. */
  get backups(): string {
    return join(this.root, 'backups');
  }

  /** What nothing refers to any more: set aside, never deleted. */
  get lost(): string {
    return join(this.root, 'lost');
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

  /** List files that devices have now, by their hashes. */
  get lists(): string {
    return join(this.root, 'lists');
  }

  list(sha256: string): string {
    return join(this.lists, sha256);
  }

  /** Clips as a whole that a page is looking at; they do not outlive the process. */
  get wholes(): string {
    return join(this.root, 'wholes');
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

  /** @param path of the finished file, within the whole's folder */
  whole(id: string, path: string): SourceFiles {
    return sourceFiles(join(this.wholes, id), path);
  }

  /** What is heard of a whole on its device. */
  onDevice(id: string): SourceFiles {
    return sourceFiles(join(this.wholes, id, 'device'));
  }

  unfinishedOnDevice(id: string): SourceFiles {
    return sourceFiles(join(this.wholes, id, 'device.part'));
  }

  unfinishedWhole(id: string): SourceFiles {
    return sourceFiles(join(this.wholes, `${id}.part`));
  }

  delivery(id: string): string {
    return join(this.deliveries, id);
  }

  unfinishedDelivery(id: string): string {
    return join(this.deliveries, `${id}.part`);
  }

  async create(): Promise<void> {
    for (const folder of [this.uploads, this.sources, this.deliveries, this.lists, this.wholes, this.backups]) {
      await mkdir(folder, { recursive: true });
    }
  }
}

/** The files that make up one source, or a clip as a whole, which is read likewise. */
export interface SourceFiles {
  readonly folder: string;
  /** The bytes as they arrived. */
  readonly original: string;
  /** Decoded sound: float32, little-endian, frame by frame. */
  readonly sound: string;
  /** Peaks of every stored step, finest first: float32, little-endian. */
  readonly peaks: string;
  /** What the database knows of the source, so that a new one can take it back. */
  readonly record: string;
}

const sourceFiles = (folder: string, original = 'original'): SourceFiles => ({
  folder,
  original: join(folder, original),
  sound: join(folder, 'sound.f32'),
  peaks: join(folder, 'peaks.f32'),
  record: join(folder, 'source.json'),
});

/** Removes whatever `isStray` names inside `folder`; gives back how many entries went. */
export async function removeStray(folder: string, isStray: (name: string) => boolean): Promise<number> {
  const stray = (await readdir(folder)).filter(isStray);
  for (const name of stray) await rm(join(folder, name), { recursive: true, force: true });
  return stray.length;
}
