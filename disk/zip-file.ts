import { createHash } from 'node:crypto';
import { PassThrough, pipeline, type Readable } from 'node:stream';
import { promisify } from 'node:util';
import { InputError, messageOf, shortened } from '@tambur/core';
import { type Entry, type ZipFile as OpenZip, type Options, open } from 'yauzl';

const openZip = promisify<string, Options, OpenZip>(open);

const MOST_ENTRIES = 20_000;

/** A ZIP on the disk whose entries are read one by one. */
export class ZipFile {
  private readonly zip: OpenZip;
  private readonly entries: ReadonlyMap<string, Entry>;
  private readonly name: string;

  private constructor(zip: OpenZip, entries: ReadonlyMap<string, Entry>, name: string) {
    this.zip = zip;
    this.entries = entries;
    this.name = name;
  }

  /**
   * @param name what it is called, for refusals
   * @throws InputError with code `damaged`
   */
  static async open(path: string, name: string, mostEntries = MOST_ENTRIES): Promise<ZipFile> {
    try {
      const zip = await openZip(path, { lazyEntries: true, autoClose: false });
      const entries = new Map<string, Entry>();
      await new Promise<void>((resolve, reject) => {
        zip.on('entry', (entry: Entry) => {
          if (entries.has(entry.fileName)) return reject(new Error(`two entries are called ${shown(entry.fileName)}`));
          entries.set(entry.fileName, entry);
          if (entries.size > mostEntries) reject(new Error('it has too many entries'));
          else zip.readEntry();
        });
        zip.on('end', resolve).on('error', reject);
        zip.readEntry();
      });
      return new ZipFile(zip, entries, name);
    } catch (error) {
      throw damaged(name, messageOf(error));
    }
  }

  close(): void {
    this.zip.close();
  }

  /** Every file, in the order of the ZIP. */
  paths(): readonly string[] {
    return [...this.entries.keys()].filter((path) => !path.endsWith('/'));
  }

  /** Paths below a folder, in the order of the ZIP. */
  below(folder: string): readonly string[] {
    return this.paths().filter((path) => path.startsWith(`${folder}/`));
  }

  /**
   * The bytes of an entry, piece by piece; at its end they have been compared with its hash.
   * @throws InputError with code `damaged` if it is not there, cannot be read, or is not what it should be
   */
  async *read(path: string, sha256: string | null): AsyncGenerator<Uint8Array> {
    const entry = this.entries.get(path);
    if (!entry) throw damaged(this.name, `${shown(path)} is missing`);
    if (entry.isEncrypted()) throw damaged(this.name, `${shown(path)} is encrypted`);
    const hash = createHash('sha256');
    try {
      const stream = await promisify<Entry, Readable>(this.zip.openReadStream.bind(this.zip))(entry);
      // The library's own streams cannot be gone through piece by piece; what ends them early ends this one.
      const pieces = new PassThrough();
      pipeline(stream, pieces, () => undefined);
      for await (const piece of pieces as AsyncIterable<Buffer>) {
        hash.update(piece);
        yield piece;
      }
    } catch (error) {
      throw error instanceof InputError ? error : damaged(this.name, `${shown(path)}: ${messageOf(error)}`);
    }
    if (sha256 !== null && hash.digest('hex') !== sha256) throw damaged(this.name, `${path} is damaged`);
  }

  /** A whole entry of so many bytes at most. @throws as `read` does, and where it is larger */
  async bytes(path: string, sha256: string | null, most: number): Promise<Uint8Array> {
    const pieces: Uint8Array[] = [];
    let size = 0;
    for await (const piece of this.read(path, sha256)) {
      size += piece.length;
      if (size > most) throw damaged(this.name, `${path} is too large`);
      pieces.push(piece);
    }
    return Buffer.concat(pieces);
  }

  /** A whole entry of so many bytes at most, as text. @throws as `bytes` does */
  async text(path: string, sha256: string | null, most: number): Promise<string> {
    return Buffer.from(await this.bytes(path, sha256, most)).toString('utf8');
  }
}

/** A name from a ZIP as it can be printed. */
const shown = (name: string) => shortened(name.replace(/\p{Cc}/gu, '?'), 80);

const damaged = (name: string, what: string) =>
  new InputError('damaged', `${name} is not a complete export (${what}); export it again.`);
