import { asciiBytes, type ByteFile, concatenated, inMemory, latin1, wholeOf } from '../../bytes/index.ts';
import { InputError } from '../../words/index.ts';
import type { WholeArray } from '../container.ts';
import { BYTE, NumberLines, parseNumbers } from './elements.ts';
import { type ArrayContext, beginsAs, closingOf, HEAD_BYTES, type TextForm } from './form.ts';
import { safeIdentifier, USUAL_TEXT } from './options.ts';

/** The first line of an array that holds a whole file: its title, the id of its container, its bytes. */
const STATEMENT = /^[^A-Za-z0-9]*[^\n]*? \(([a-z0-9-]+)\), a whole file of (\d+) bytes\b/;

/** The same array with the bytes of a whole file in it, header and all: many players on small boards want that. */
export function wholeArray(form: TextForm): WholeArray {
  const [commentStart, commentEnd] = form.comment;
  return {
    holds(head) {
      const text = latin1(head.subarray(0, HEAD_BYTES));
      return beginsAs(form, text) && STATEMENT.test(text) && form.opening.test(text);
    },
    open(file) {
      const bytes = wholeOf(file);
      const head = latin1(bytes.subarray(0, HEAD_BYTES));
      const size = Number(STATEMENT.exec(head)?.[2]);
      const opening = form.opening.exec(head);
      const from = opening ? opening.index + opening[0].length : 0;
      const skipped = form.line(BYTE).prefix.trim();
      const data = parseNumbers({ bytes, from, closing: closingOf(form), skipped }, BYTE);
      const stated = form.states.length?.exec(head)?.[1];
      if (!opening || data?.length !== size || (stated !== undefined && Number(stated) !== size)) {
        throw new InputError(
          'damaged',
          `The ${form.title} does not hold the whole file that its first line states; write it again from its source.`,
        );
      }
      return inMemory(data);
    },
    pack(file, { container, title, stem, text, sampleRate, channels, frames }) {
      const options = { ...USUAL_TEXT, ...text };
      const { prefix, end } = form.line(BYTE);
      const name = safeIdentifier(options.arrayName || stem);
      const context: ArrayContext = { name, element: BYTE, length: file.length, sampleRate, channels, frames, options };
      const what = `${title} (${container}), a whole file of ${file.length} bytes.`;
      const lines = new NumberLines({
        prefix,
        lineEnd: end,
        lineWidth: options.lineWidth,
        hex: options.numbers === 'hex',
      });
      return concatenated([
        asciiBytes([`${commentStart}${what}${commentEnd}`, ...form.before(context), ''].join('\n')),
        lines.add(file, BYTE),
        asciiBytes([form.lastEnd, ...form.after(context), ''].join('\n')),
      ]);
    },
  };
}

/** Only what small devices hold is put into arrays. */
export const LARGEST_WHOLE = 64_000_000;

/** The part of a file that a program is given as its array. */
export interface WholeIn {
  /** Id of the container that holds it. */
  readonly array: string;
  readonly file: ByteFile;
}
