import { InputError, messageOf, shortened } from '@tambur/core';
import pLimit from 'p-limit';
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

/** How files are gone through. */
interface Pace<F, T> {
  /** What a file is called. */
  readonly name?: (file: F) => string;
  /** So many at once. */
  readonly count?: number;
  /** Says what came of a file. */
  readonly say?: (result: T) => void;
}

/** Runs `use` on each file; a file that cannot be used is named and does not stop the rest. Words come in the order of the files. */
export async function eachFile<F, T>(
  files: readonly F[],
  output: Output,
  { debug }: Format,
  use: (file: F, index: number) => Promise<T>,
  { name = String, count = 1, say = () => undefined }: Pace<F, T> = {},
): Promise<{ readonly results: readonly T[]; readonly trouble: number | null }> {
  const results: T[] = [];
  /** The gravest exit code so far. */
  let trouble: number | null = null;
  let done = 0;
  const limit = pLimit(count);
  const running = files.map((file, index) =>
    limit(async () => {
      output.progress(done + 1, files.length);
      try {
        return { result: await use(file, index) };
      } catch (error) {
        return { error };
      } finally {
        done++;
      }
    }),
  );
  for (const [i, work] of running.entries()) {
    const came = await work;
    if ('result' in came) {
      say(came.result);
      results.push(came.result);
      continue;
    }
    const { error } = came;
    const isInput = error instanceof InputError;
    if (isInput) output.words(shortened(error.message));
    else sayFailure(output, `${name(files[i] as F)}: `, error, debug);
    trouble = Math.max(trouble ?? 0, isInput ? EXIT.unusable : EXIT.failed);
  }
  output.progress(files.length, files.length);
  return { results, trouble };
}
