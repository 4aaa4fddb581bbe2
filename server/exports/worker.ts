import { InputError, type InputErrorCode } from '@tambur/core';
import { type JobZip, readJobZip, ZipFile } from '@tambur/disk';

/** An export to be read. */
export interface ReadTask {
  readonly path: string;
  /** What it is called, for refusals. */
  readonly name: string;
}

/** Errors lose their class on the way between threads, so what a user can mend travels as a value. */
export type ReadOutcome = JobZip | { readonly refused: { readonly code: InputErrorCode; readonly message: string } };

/** Reads the documents of an export: large ones keep only this thread busy. */
export default async function readExport({ path, name }: ReadTask): Promise<ReadOutcome> {
  try {
    const zip = await ZipFile.open(path, name);
    try {
      return await readJobZip(zip, name);
    } finally {
      zip.close();
    }
  } catch (error) {
    if (error instanceof InputError) return { refused: { code: error.code, message: error.message } };
    throw error;
  }
}
