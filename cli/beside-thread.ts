// Measures a source's levels, and reads the file again that another thread makes of it.
import { parentPort, workerData } from 'node:worker_threads';
import { InputError, readBack } from '@tambur/core';
import { Growth, growingFile } from '@tambur/disk';
import type { Answer, Companion } from './beside.ts';
import { levelsOfFile } from './files.ts';
import { lively } from './life.ts';

const { path, options, likely, made } = workerData as Companion;
const tell = (answer: Answer) => parentPort?.postMessage(answer);
try {
  tell({ facts: await levelsOfFile(path, options, likely) });
  if (made) {
    const file = growingFile(made.path, new Growth(made.growth));
    try {
      tell({ found: await readBack(file, made.reading, lively, async () => undefined) });
    } finally {
      file.close();
    }
  }
} catch (error) {
  if (!(error instanceof InputError)) throw error;
  tell({ refused: [error.code, error.message] });
}
