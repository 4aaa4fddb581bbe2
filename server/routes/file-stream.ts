import { open, stat } from 'node:fs/promises';
import { Readable } from 'node:stream';
import { Problem } from '../answers/problem.ts';

const gone = (name: string) =>
  new Problem(
    410,
    'gone',
    `The file ${name} is gone from the data folder; put it back from a backup, or remove what it belongs to.`,
  );

const isGone = (error: unknown) => ['ENOENT', 'ENOTDIR'].includes((error as NodeJS.ErrnoException).code ?? '');

/** Bytes of a file from one place to before another; all of them if none is named. */
interface ByteRange {
  readonly from: number;
  readonly to: number;
}

/**
 * A file as the body of an answer: it has been opened before anything is answered.
 * @param name what it is called, for refusals
 * @throws Problem with status 410 if it is not there any more
 */
export async function fileStream(path: string, name: string, range?: ByteRange): Promise<ReadableStream<Uint8Array>> {
  const file = await open(path, 'r').catch((error: unknown) => {
    throw isGone(error) ? gone(name) : error;
  });
  const stream = file.createReadStream(range ? { start: range.from, end: range.to - 1 } : {});
  return Readable.toWeb(stream) as ReadableStream<Uint8Array>;
}

/**
 * Looks whether files are there, and as large as is known, before an answer that is made of all of them begins.
 * @throws Problem with status 410 naming the first that is not
 */
export async function requireFiles(
  files: readonly { readonly path: string; readonly name: string; readonly bytes: number }[],
): Promise<void> {
  for (const { path, name, bytes } of files) {
    const size = await stat(path).then(
      (found) => found.size,
      (error: unknown) => {
        if (isGone(error)) return null;
        throw error;
      },
    );
    if (size !== bytes) throw gone(name);
  }
}
