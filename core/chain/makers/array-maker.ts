import { concatenated } from '../../bytes/index.ts';
import { LARGEST_WHOLE, type WholeArray, type WholeFile } from '../../containers/index.ts';
import { formatBytes, InputError } from '../../words/index.ts';
import type { Block } from '../passage.ts';
import type { Measurements } from '../report.ts';
import type { FileMaker } from './file-maker.ts';

/** Puts the whole file that another maker makes into an array of source code. It is held in memory until it is complete. */
export class ArrayMaker implements FileMaker {
  readonly framesAtOnce: number | undefined;
  private readonly inner: FileMaker;
  private readonly form: WholeArray;
  private readonly what: WholeFile;
  private readonly parts: Uint8Array[] = [];
  private bytes = 0;

  constructor(inner: FileMaker, form: WholeArray, what: WholeFile) {
    this.inner = inner;
    this.form = form;
    this.what = what;
    this.framesAtOnce = inner.framesAtOnce;
  }

  async push(block: Block): Promise<Uint8Array> {
    this.keep(await this.inner.push(block));
    return new Uint8Array(0);
  }

  async finish(): Promise<Uint8Array> {
    this.keep(await this.inner.finish());
    const file = concatenated(this.parts);
    for (const { at, bytes } of this.inner.amendments?.() ?? []) file.set(bytes, at);
    return this.form.pack(file, this.what);
  }

  private keep(bytes: Uint8Array): void {
    this.bytes += bytes.length;
    if (this.bytes > LARGEST_WHOLE) {
      throw new InputError(
        'too-large',
        `A file of more than ${formatBytes(LARGEST_WHOLE)} does not go into an array; make the cut shorter.`,
      );
    }
    // Whoever makes bytes may use their memory again.
    this.parts.push(bytes.slice());
  }

  measured(): Measurements {
    return this.inner.measured();
  }

  get dataSum(): number | null {
    return this.inner.dataSum;
  }

  close(): void | Promise<void> {
    return this.inner.close?.();
  }
}
