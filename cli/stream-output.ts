import { writeSync } from 'node:fs';
import type { Output } from './output.ts';

/** Written to at once: the streams of a thread wait until its work rests. */
const STDERR = 2;

/** Told at most so often, and not before something has taken as long. */
const TOLD_MS = 200;

/** Writes to the streams of the process. Progress is a line that is written over, where somebody sees it. */
export function processOutput(isWatched: boolean): Output {
  const { stdout, stderr } = process;
  let shown = false;
  let told = performance.now();
  const clear = () => {
    if (shown) writeSync(STDERR, '\r\x1b[K');
    shown = false;
  };
  return {
    data(text) {
      clear();
      stdout.write(`${text}\n`);
    },
    words(text) {
      clear();
      stderr.write(`${text}\n`);
    },
    progress(file, of) {
      if (!isWatched) return;
      if (file === of) return clear();
      if (performance.now() - told < TOLD_MS) return;
      told = performance.now();
      clear();
      writeSync(STDERR, `file ${file} of ${of}`);
      shown = true;
    },
  };
}
