import { execFileSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import {
  automaticSettings,
  type ClipSettings,
  inMemory,
  surveyStream,
  targetOf,
  wholeOf,
  withVariant,
} from '@tambur/core';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { sources } from '../core/chain/fixtures/sources.ts';
import { makeFrom } from '../core/delivery/fixtures/make.ts';
import { library, openSourceStream } from './index.ts';

let folder: string;
beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), 'arrays-'));
});
afterAll(() => rmSync(folder, { recursive: true }));

const archive = targetOf('archive-copy');
const KINDS = {
  'WAV, 8 bit': { container: 'wav', encoding: 'pcm-u8' },
  'WAV, IMA ADPCM': { container: 'wav', encoding: 'ima-adpcm' },
  AIFF: { container: 'aiff', encoding: 'pcm-s16be' },
  MP3: { container: 'mp3', encoding: 'mp3', bitRate: 64_000 },
  AAC: { container: 'mp4', encoding: 'aac' },
  FLAC: { container: 'flac', encoding: 'flac' },
  Vorbis: { container: 'ogg', encoding: 'vorbis' },
} as const satisfies Record<string, ClipSettings['wrap']>;

const make = (wrap: Exclude<ClipSettings['wrap'], 'automatic'>) =>
  makeFrom(sources.quiet, { ...automaticSettings('Bell'), wrap }, archive, { stem: 'bell', library });

/** What a compiler makes of an array, by means that share nothing with ours. */
const COMPILED = {
  'c-header': (text: Uint8Array) => {
    writeFileSync(join(folder, 'bell.h'), text);
    writeFileSync(
      join(folder, 'main.c'),
      '#include <stdio.h>\n#include "bell.h"\nint main(void) { return fwrite(bell, 1, sizeof bell, stdout) != BELL_LENGTH; }\n',
    );
    const program = join(folder, 'main');
    execFileSync('cc', ['-std=c99', '-Wall', '-Wextra', '-Werror', '-pedantic', '-o', program, join(folder, 'main.c')]);
    return execFileSync(program, { maxBuffer: 1e8 });
  },
  python: (text: Uint8Array) => {
    writeFileSync(join(folder, 'bell.py'), text);
    return execFileSync(
      'python3',
      ['-c', 'import sys; sys.path.insert(0, sys.argv[1]); import bell; sys.stdout.buffer.write(bell.BELL)', folder],
      { maxBuffer: 1e8 },
    );
  },
  // Read as text: every number of the array, whatever stands around it.
  rust: (text: Uint8Array) => numbersIn(text, /= \[\n([\s\S]*)\n\];/),
  'c-source': (text: Uint8Array) => numbersIn(text, /= \{\n([\s\S]*)\n\};/),
  assembler: (text: Uint8Array) => numbersIn(text, /bell:\n([\s\S]*)\/\* end/),
} as const;

const numbersIn = (text: Uint8Array, pattern: RegExp) =>
  Uint8Array.from(pattern.exec(new TextDecoder().decode(text))?.[1]?.match(/\d+/g)?.map(Number) ?? []);

describe.each(Object.entries(KINDS))('%s', (_, wrap) => {
  test.each(
    Object.keys(COMPILED) as (keyof typeof COMPILED)[],
  )('all of the file in %s is the file, to the last byte, and is read and checked like it', async (array) => {
    const alone = await make(wrap);
    const within = await make({ ...wrap, array });
    const file = wholeOf(alone.file);
    expect(Buffer.from(COMPILED[array](wholeOf(within.file))).equals(file)).toBe(true);
    expect(within.facts).toMatchObject({
      container: alone.facts.container,
      array,
      encoding: alone.facts.encoding,
      frames: alone.facts.frames,
      bytes: within.file.size,
      soundBytes: file.length,
    });
    expect(within.facts.levels).toEqual(alone.facts.levels);
    // Anybody's reader finds the same.
    const again = await surveyStream(await openSourceStream(inMemory(wholeOf(within.file))), () => undefined);
    expect({ ...again, certainty: 'written' }).toEqual(within.facts);
  });
});

test('a board that wants the whole WAV gets it; another file breaks its sheet, and it theirs', async () => {
  const board = withVariant(targetOf('microcontroller-8-bit-dac'), 'whole-wav');
  const made = await makeFrom(sources.quiet, automaticSettings('Bell'), board, { stem: 'bell', library });
  expect(made.findings.filter(({ verdict }) => verdict === 'breaks')).toEqual([]);
  const plain = await makeFrom(sources.quiet, automaticSettings('Bell'), targetOf('microcontroller-8-bit-dac'));
  // 44 bytes of header (common practice, no source) are in its memory too.
  expect(made.facts.soundBytes).toBe((plain.facts.soundBytes ?? 0) + 44);
  const bare = await makeFrom(sources.quiet, { ...automaticSettings('Bell'), wrap: { array: 'none' } }, board);
  const broken = bare.findings.filter(({ verdict }) => verdict === 'breaks').map(({ requirement }) => requirement);
  expect(broken.sort()).toEqual(['array', 'extension']);
  const module = targetOf('numbered-sound-module');
  const other = await makeFrom(sources.quiet, { ...automaticSettings('Bell'), wrap: { array: 'c-header' } }, module, {
    stem: '0000',
  });
  expect(other.findings.find(({ requirement }) => requirement === 'container')).toMatchObject({
    verdict: 'breaks',
    found: 'WAV in C header',
  });
});

test.each([
  ['a number too few', (text: string) => text.replace(/\d+,\n\};/, '\n};')],
  ['another length', (text: string) => text.replace(/a whole file of \d+/, 'a whole file of 9')],
  ['a number too large', (text: string) => text.replace(/\n {2}\d+,/, '\n  999,')],
])('%s is refused in words', async (_, spoil) => {
  const { file } = await make({ ...KINDS['WAV, 8 bit'], array: 'c-header' });
  const text = new TextDecoder().decode(wholeOf(file));
  const spoiled = new TextEncoder().encode(spoil(text));
  await expect(openSourceStream(inMemory(spoiled))).rejects.toThrow(
    /does not hold the whole file that its first line states/,
  );
});
