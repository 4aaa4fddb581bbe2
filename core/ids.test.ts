import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect, test } from 'vitest';
import { foreignContainers, outContainers } from './containers/index.ts';
import { blockEncodings, compressedEncodings, encodings, foreignEncodings } from './encodings/index.ts';

/** Encodings and containers say themselves what they are like. Nobody else looks into their ids, or lists them. */
const HOMES = [
  'core/encodings/',
  'core/containers/',
  'core/targets/sheets/',
  'core/targets/former/',
  'codecs/formats/',
  'codecs/encoders/',
];

/** Words that mean other things as well. */
const OTHER_WORDS = new Set(['json', 'au', 'python', 'rust', 'assembler']);

const ids = [
  ...outContainers(),
  ...foreignContainers,
  ...encodings,
  ...blockEncodings,
  ...compressedEncodings,
  ...foreignEncodings,
]
  .map(({ id }) => id)
  .filter((id) => !OTHER_WORDS.has(id));
const quoted = new RegExp(`(['"\`])(${[...new Set(ids)].join('|')})\\1`);

/** The beginnings of ids, by which somebody could tell kinds apart. */
const PREFIX = /(startsWith|endsWith|includes)\((['"`])(pcm|float|ima|oki|adpcm|c-)/;

function* sources(folder: string): Iterable<string> {
  for (const entry of readdirSync(folder, { withFileTypes: true })) {
    const path = join(folder, entry.name);
    if (entry.isDirectory() && !['node_modules', 'fixtures'].includes(entry.name)) yield* sources(path);
    else if (/\.tsx?$/.test(entry.name) && !/\.(test|spec)\.tsx?$/.test(entry.name)) yield path;
  }
}

test('no code outside their homes looks into the ids of encodings and containers', () => {
  const files = ['core', 'codecs', 'disk', 'speech', 'server', 'cli', 'web'].flatMap((folder) => [...sources(folder)]);
  expect(files.length).toBeGreaterThan(200);
  const found = files
    .filter((path) => !HOMES.some((home) => path.startsWith(home)))
    .flatMap((path) =>
      readFileSync(path, 'utf8')
        .split('\n')
        .flatMap((line, i) => (quoted.test(line) || PREFIX.test(line) ? [`${path}:${i + 1}: ${line.trim()}`] : [])),
    );
  expect(found).toEqual([]);
  // The pattern finds what it is for.
  expect(quoted.test("if (plan.encoding === 'mp3')")).toBe(true);
});
