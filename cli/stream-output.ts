import { writeSync } from 'node:fs';
import type { Output } from './output.ts';

/** A text without what a terminal would obey: names of files and tags may hold such signs. Ends of lines and tabs stay. */
export const withoutControls = (text: string): string => text.replace(/(?![\n\r\t])\p{Cc}/gu, '\ufffd');

/** Written to at once: the streams of a thread wait until its work rests. */
const STDERR = 2;

/** Told at most so often, and not before something has taken as long. */
const TOLD_MS = 200;
/** A line of a log: so often at most. */
const LOGGED_MS = 5000;
/** Signs of the bar. */
const WIDTH = 24;

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
      stdout.write(`${withoutControls(text)}\n`);
    },
    words(text) {
      clear();
      stderr.write(`${withoutControls(text)}\n`);
    },
    progress(file, of) {
      if (file === of) return clear();
      if (performance.now() - told < (isWatched ? TOLD_MS : LOGGED_MS)) return;
      told = performance.now();
      if (!isWatched) return stderr.write(`file ${file} of ${of}\n`);
      clear();
      const done = Math.floor((WIDTH * (file - 1)) / of);
      writeSync(STDERR, `[${'#'.repeat(done)}${'-'.repeat(WIDTH - done)}] file ${file} of ${of}`);
      shown = true;
    },
  };
}
