import { mkdtempSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { basename, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { type Finding, type Pcm, targets, wavFile } from '@tambur/core';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { check, make } from './commands.ts';
import { EXIT } from './exit.ts';

/** Everything that the demo brings, and sounds that make trouble. */
const demo = fileURLToPath(new URL('../demo/sounds', import.meta.url));
const tone = (seconds: number, channels: number, level: number): Pcm => ({
  sampleRate: 44_100,
  channels: Array.from({ length: channels }, (_, channel) =>
    Float32Array.from({ length: seconds * 44_100 }, (__, i) => level * Math.sin(i * (0.05 + 0.02 * channel))),
  ),
});
let random = 1;
const noise = () => {
  random = (random * 48_271) % 2_147_483_647;
  return (2 * random) / 2_147_483_647 - 1;
};
const hard: Readonly<Record<string, Pcm>> = {
  silence: tone(2, 1, 0),
  'full-scale-noise': { sampleRate: 44_100, channels: [Float32Array.from({ length: 88_200 }, noise)] },
  click: { sampleRate: 44_100, channels: [Float32Array.from({ length: 4410 }, (_, i) => (i === 100 ? 1 : 0))] },
  'long-tone': tone(20, 2, 0.5),
};

let folder: string;
let sources: string[];
beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), 'matrix-'));
  for (const [name, pcm] of Object.entries(hard)) writeFileSync(join(folder, `${name}.wav`), wavFile(pcm, 16));
  sources = [
    ...readdirSync(demo).map((name) => join(demo, name)),
    ...Object.keys(hard).map((name) => join(folder, `${name}.wav`)),
  ];
});
afterAll(() => rmSync(folder, { recursive: true }));

interface Made {
  readonly file: string;
  readonly findings: readonly Finding[];
  readonly ways?: readonly { readonly label: string; readonly set: readonly string[] }[];
}

/** Runs a command and gives its JSON and its exit code. */
async function run<T>(command: (output: { data(text: string): void; words(text: string): void }) => Promise<number>) {
  const data: string[] = [];
  const code = await command({ data: (text) => data.push(text), words: () => undefined });
  return { code, entries: JSON.parse(data.join('')) as readonly T[] };
}

const editions = targets.flatMap(({ id, variants = [] }) => [
  { target: id },
  ...variants.map((variant) => ({ target: id, variant: variant.id })),
]);

describe.each(editions)('$target $variant', (choice) => {
  test('every source: made and checked without a break, or stopped by an obstacle with a way out that then works', async () => {
    for (const source of sources) {
      const out = join(folder, `${choice.target}-${'variant' in choice ? choice.variant : ''}`);
      const as = source.endsWith('.raw') ? { as: 'mu-law,8000,1' } : {};
      const makeWith = (set: readonly string[]) =>
        run<Made>((output) => make(output, [source], { ...choice, ...as, out, set, json: true }));
      const first = await makeWith([]);
      const ways = first.entries[0]?.ways ?? [];
      const made = first.code === EXIT.met ? first : await makeWith(ways[0]?.set ?? []);
      const breaks = made.entries.flatMap(({ findings }) => findings.filter(({ verdict }) => verdict === 'breaks'));
      expect({ source: basename(source), code: made.code, breaks }).toEqual({
        source: basename(source),
        code: EXIT.met,
        breaks: [],
      });
      const [file = ''] = made.entries.map((entry) => entry.file);
      const checked = await run<Made>((output) => check(output, [file], { ...choice, json: true }));
      expect({ source: basename(source), code: checked.code }).toEqual({ source: basename(source), code: EXIT.met });
      rmSync(out, { recursive: true });
    }
  }, 240_000);
});
