import { type ByteFile, latin1, partOf, wholeOf } from '../../bytes/index.ts';

/** How sounds begin in texts that can hold several: with the comment of a form of source code, or an object of JSON. */
const BEGINNINGS = [
  /^[^A-Za-z0-9\n]*[^\n]*? \([a-z0-9-]+\), \d+ Hz, (?:mono|\d+ channels), \d+ frames\b/gm,
  /^[^A-Za-z0-9\n]*[^\n]*? \([a-z0-9-]+\), a whole file of \d+ bytes\b/gm,
  /\{\s*"name": "[^"]*",\s*"encoding": "[a-z0-9-]+"/g,
];

/** The sounds that stand one after the other in a text, each as a file of its own. */
export function soundsIn(file: ByteFile): readonly ByteFile[] {
  const text = latin1(wholeOf(file));
  const starts = BEGINNINGS.flatMap((pattern) => [...text.matchAll(pattern)].map(({ index }) => index)).sort(
    (a, b) => a - b,
  );
  return starts.map((start, i) => partOf(file, start, starts[i + 1] ?? file.size));
}
