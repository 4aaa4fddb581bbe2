import { InputError, messageOf, shortened } from '@tambur/core';
import { EXIT } from './exit.ts';

/** Data goes to stdout, words to stderr. */
export interface Output {
  data(text: string): void;
  words(text: string): void;
  /** Which of how many files is being worked on, for whoever watches; the last of as many ends it. */
  progress(file: number, of: number): void;
}

export interface Format {
  readonly json?: boolean;
  /** Shows where a mistake of the program came from. */
  readonly debug?: boolean | undefined;
}

/** What a mistake of the program itself says: one sentence, and where it came from only for those who ask. */
export function sayFailure(output: Output, what: string, error: unknown, debug = false): void {
  const words = messageOf(error);
  output.words(`${what}failed in a way that Tambur did not foresee (${shortened(words, 300)}); please report it.`);
  if (debug && error instanceof Error) output.words(error.stack ?? '');
}

export const json = (value: unknown): string => JSON.stringify(value, null, 2);

/** Runs `use` on each file; a file that cannot be used is named and does not stop the rest. */
export async function eachFile<T>(
  paths: readonly string[],
  output: Output,
  { debug }: Format,
  use: (path: string) => Promise<T>,
): Promise<{ readonly results: readonly T[]; readonly trouble: number | null }> {
  const results: T[] = [];
  /** The gravest exit code so far. */
  let trouble: number | null = null;
  for (const [i, path] of paths.entries()) {
    output.progress(i + 1, paths.length);
    try {
      results.push(await use(path));
    } catch (error) {
      const isInput = error instanceof InputError;
      if (isInput) output.words(shortened(error.message));
      else sayFailure(output, `${path}: `, error, debug);
      trouble = Math.max(trouble ?? 0, isInput ? EXIT.unusable : EXIT.failed);
    }
  }
  output.progress(paths.length, paths.length);
  return { results, trouble };
}
