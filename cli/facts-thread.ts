// Measures a file while another thread already uses it.
import { parentPort, workerData } from 'node:worker_threads';
import { InputError } from '@tambur/core';
import type { Answer, Measuring } from './beside.ts';
import { factsOfFile } from './files.ts';

const { path, options } = workerData as Measuring;
const tell = (answer: Answer) => parentPort?.postMessage(answer);
try {
  tell({ facts: await factsOfFile(path, options) });
} catch (error) {
  if (!(error instanceof InputError)) throw error;
  tell({ refused: [error.code, error.message] });
}
