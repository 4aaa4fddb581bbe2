import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import fc from 'fast-check';
import { expect, test } from 'vitest';
import { wholeOf } from '../bytes/index.ts';
import { InputError } from '../words/index.ts';
import { cardOfZip, isZip } from './zip.ts';

/** A ZIP as Python's own library writes it, stored and deflated. */
function zipOf(files: readonly (readonly [string, string])[]): Uint8Array {
  const folder = mkdtempSync(join(tmpdir(), 'zip-'));
  try {
    const program = `
import json, sys, zipfile
out, files = sys.argv[1], json.loads(sys.argv[2])
with zipfile.ZipFile(out, 'w') as z:
    z.mkdir('sounds') if hasattr(z, 'mkdir') else z.writestr('sounds/', '')
    for i, (path, text) in enumerate(files):
        z.writestr(path, text, zipfile.ZIP_DEFLATED if i % 2 else zipfile.ZIP_STORED)
`;
    const path = join(folder, 'card.zip');
    execFileSync('python3', ['-c', program, path, JSON.stringify(files)]);
    return new Uint8Array(readFileSync(path));
  } finally {
    rmSync(folder, { recursive: true });
  }
}

const zip = zipOf([
  ['sounds/2.wav', 'second'],
  ['10', 'ten'],
  ['1', 'one'],
  ['sounds/ä.txt', 'x'.repeat(5000)],
]);

test('the files of a ZIP, in its own order', () => {
  expect([isZip(zip), isZip(new TextEncoder().encode('RIFF'))]).toEqual([true, false]);
  const card = cardOfZip(zip, 'card.zip');
  expect(card.map(({ path }) => path)).toEqual(['sounds/2.wav', '10', '1', 'sounds/ä.txt']);
  expect(card.map(({ bytes }) => new TextDecoder().decode(wholeOf(bytes)))).toEqual([
    'second',
    'ten',
    'one',
    'x'.repeat(5000),
  ]);
});

test('a damaged one is refused in one sentence, or read as far as it is whole', () => {
  expect(() => cardOfZip(zip.subarray(0, 60), 'card.zip')).toThrow(/^card\.zip is damaged or not a whole ZIP file;/);
  fc.assert(
    fc.property(fc.nat(zip.length - 1), fc.nat(255), (at, value) => {
      const broken = zip.slice();
      broken[at] = value;
      try {
        cardOfZip(broken, 'card.zip');
      } catch (error) {
        expect(error).toBeInstanceOf(InputError);
      }
    }),
  );
});
