import { mkdtempSync, readdirSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { type Finding, targets } from '@tambur/core';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { someOf } from '../codecs/fixtures/some.ts';
import { check } from './commands/check.ts';
import { make } from './commands/make.ts';
import { EXIT } from './exit.ts';
import type { Output } from './output.ts';

/** What the demo brings, through the commands as they are typed; sounds that make trouble are in `codecs/matrix.test.ts`. */
const demo = fileURLToPath(new URL('../demo/sounds', import.meta.url));
const sources = readdirSync(demo).sort();

let folder: string;
beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), 'matrix-'));
});
afterAll(() => rmSync(folder, { recursive: true }));

interface Made {
  readonly file: string;
  readonly findings: readonly Finding[];
  readonly ways?: readonly { readonly label: string; readonly set: readonly string[] }[];
}

/** Runs a command and gives its JSON and its exit code. */
async function run<T>(command: (output: Output) => Promise<number>) {
  const data: string[] = [];
  const code = await command({ data: (text) => data.push(text), words: () => undefined, progress: () => undefined });
  return { code, entries: JSON.parse(data.join('')) as readonly T[] };
}

const editions = targets
  .flatMap(({ id, variants = [] }) => [
    { target: id },
    ...variants.map((variant) => ({ target: id, variant: variant.id })),
  ])
  .map((choice, i) => ({ choice, name: Object.values(choice).join(' '), names: someOf(sources, i) }));

test('each sound of the demo comes up', () => {
  expect(new Set(editions.flatMap(({ names }) => names))).toEqual(new Set(sources));
});

describe.each(editions)('$name', ({ choice, names }) => {
  test.each(
    names,
  )('%s: made and checked without a break, or stopped by an obstacle with a way out that then works', async (name) => {
    const source = join(demo, name);
    const out = join(folder, `${choice.target}-${'variant' in choice ? choice.variant : ''}-${name}`);
    const as = source.endsWith('.raw') ? { as: 'mu-law,8000,1' } : {};
    const makeWith = (set: readonly string[]) =>
      run<Made>((output) => make(output, [source], { ...choice, ...as, out, set, json: true }));
    const first = await makeWith([]);
    const ways = first.entries[0]?.ways ?? [];
    const made = first.code === EXIT.met ? first : await makeWith(ways[0]?.set ?? []);
    const breaks = made.entries.flatMap(({ findings }) => findings.filter(({ verdict }) => verdict === 'breaks'));
    expect({ code: made.code, breaks }).toEqual({ code: EXIT.met, breaks: [] });
    const [file = ''] = made.entries.map((entry) => entry.file);
    const checked = await run<Made>((output) => check(output, [file], { ...choice, json: true }));
    expect(checked.code).toBe(EXIT.met);
    rmSync(out, { recursive: true });
  });
});
