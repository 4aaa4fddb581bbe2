import { execFileSync } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { ZipFile } from './zip-file.ts';

let folder: string;
beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), 'zip-file-'));
});
afterAll(() => rmSync(folder, { recursive: true }));

test('entries are read, those that are missing or bent are refused in one sentence', async () => {
  const path = join(folder, 'x.zip');
  execFileSync('python3', [
    '-c',
    "import sys, zipfile\nz = zipfile.ZipFile(sys.argv[1], 'w')\nz.writestr('a/b.txt', 'hello')\nz.writestr('c.txt', 'x' * 99999, zipfile.ZIP_DEFLATED)\nz.close()",
    path,
  ]);
  const zip = await ZipFile.open(path, 'x.zip');
  expect(zip.below('a')).toEqual(['a/b.txt']);
  expect(await zip.text('a/b.txt', null, 100_000)).toBe('hello');
  expect((await zip.text('c.txt', null, 100_000)).length).toBe(99_999);
  await expect(zip.text('c.txt', '0'.repeat(64), 100_000)).rejects.toThrow(
    /^x\.zip is not a complete export \(c\.txt is damaged\);/,
  );
  await expect(zip.text('d.txt', null, 100_000)).rejects.toThrow(/d\.txt is missing/);
  await expect(zip.text('c.txt', null, 99_998)).rejects.toThrow(/c\.txt is too large/);
  zip.close();
  await expect(ZipFile.open(join(folder, 'none.zip'), 'none.zip')).rejects.toThrow(
    /none\.zip is not a complete export/,
  );
});
