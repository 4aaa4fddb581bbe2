import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, relative } from 'node:path';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { filesBelow } from './folder.ts';

let folder: string;
beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), 'tambur-below-'));
  for (const path of ['a/b/one', 'a/.two', 'c.part/three', 'c.part/d/four', 'five']) {
    mkdirSync(join(folder, path, '..'), { recursive: true });
    writeFileSync(join(folder, path), path);
  }
});
afterAll(() => rmSync(folder, { recursive: true }));

const below = async (isLeftOut?: (name: string) => boolean) =>
  (await filesBelow(folder, isLeftOut)).map((path) => relative(folder, path));

test('all files below, hidden ones too, by their names', async () => {
  expect(await below()).toEqual(['a/.two', 'a/b/one', 'c.part/d/four', 'c.part/three', 'five']);
});

test('what is left out is not looked into: it may be renamed or removed meanwhile', async () => {
  const seen: string[] = [];
  const found = await below((name) => {
    seen.push(name);
    // As a build does that ends in this moment.
    if (name === 'c.part') rmSync(join(folder, name), { recursive: true });
    return name.endsWith('.part');
  });
  expect(found).toEqual(['a/.two', 'a/b/one', 'five']);
  expect(seen.sort()).toEqual(['.two', 'a', 'b', 'c.part', 'five', 'one']);
});
