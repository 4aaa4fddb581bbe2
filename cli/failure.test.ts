import { expect, test, vi } from 'vitest';
import { showFacts } from './commands/facts.ts';
import { EXIT } from './exit.ts';

vi.mock('./files.ts', async (original) => ({
  ...(await original<typeof import('./files.ts')>()),
  factsOfFile: async (path: string) => {
    if (path === 'bad.wav') throw new TypeError('undefined is not\na function');
    return { name: path };
  },
}));

const run = async (debug: boolean) => {
  const [data, words]: [string[], string[]] = [[], []];
  const output = {
    data: (text: string) => data.push(text),
    words: (text: string) => words.push(text),
    progress: () => undefined,
  };
  const code = await showFacts(output, ['a.wav', 'bad.wav', 'b.wav'], { json: true, debug });
  return { code, words, files: JSON.parse(data.join('')).map(({ file }: { file: string }) => file) };
};

test('a mistake of the program in one file is one sentence, exits with 3, and does not stop the others', async () => {
  const { code, words, files } = await run(false);
  expect(code).toBe(EXIT.failed);
  expect(files).toEqual(['a.wav', 'b.wav']);
  expect(words).toEqual([
    'bad.wav: failed in a way that Tambur did not foresee (undefined is not a function); please report it.',
  ]);
});

test('where it came from is shown to those who ask', async () => {
  expect((await run(true)).words[1]).toMatch(/^TypeError: .*\n\s+at /s);
});
