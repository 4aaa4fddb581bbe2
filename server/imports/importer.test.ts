import { existsSync, mkdirSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { InputError } from '@tambur/core';
import { afterEach, beforeEach, describe, expect, test } from 'vitest';
import { freshData, workerFile } from '../fixtures/data.ts';
import { Source } from '../models/index.ts';
import { Importer } from './importer.ts';

let fresh: Awaited<ReturnType<typeof freshData>>;
let importer: Importer;

beforeEach(async () => {
  fresh = await freshData();
  importer = new Importer(fresh.data, workerFile, 1000);
});

afterEach(async () => {
  await importer.close();
  await fresh.remove();
});

async function* bytes(...parts: (string | Error)[]): AsyncGenerator<Uint8Array> {
  for (const part of parts) {
    if (part instanceof Error) throw part;
    yield Buffer.from(part);
  }
}

/** Everything on the disk that an import makes. */
const left = () => [...readdirSync(fresh.data.uploads), ...readdirSync(fresh.data.sources)];

describe('an import', () => {
  test('stores the bytes under their SHA-256 and records them last', async () => {
    const source = await importer.take('folder/of/things\\bell\u0007.wav', bytes('so', 'und'));
    expect(source.name).toBe('bell.wav');
    // The SHA-256 of "sound", by sha256sum.
    expect(source.sha256).toBe('dd29442deca69f52c50006b831cb216edf78a7da33748f0a80ff19f2ebe57ecd');
    expect(readdirSync(fresh.data.sources)).toEqual([source.sha256]);
    expect(readFileSync(fresh.data.source(source.sha256).original, 'utf8')).toBe('sound');
    expect(readdirSync(fresh.data.uploads)).toEqual([]);
  });

  test('of the same bytes, one after the other or at once, is one source', async () => {
    const names = ['a', 'b', 'c'];
    const sources = await Promise.all(names.map((name) => importer.take(name, bytes('same sound'))));
    const later = await importer.take('d', bytes('same sound'));
    expect(new Set([...sources, later].map(({ id }) => id)).size).toBe(1);
    expect(await Source.count()).toBe(1);
    expect(left()).toHaveLength(1);
  });

  test.each([
    ['is refused by the decoder', () => importer.take('x.wav', bytes('refuse')), /^x\.wav: The file is of no use\.$/],
    ['throws in the decoder', () => importer.take('x', bytes('throw')), /out of memory/],
    ['takes the decoder down', () => importer.take('x', bytes('die')), /./],
    ['breaks off while it is sent', () => importer.take('x', bytes('half', new Error('gone'))), /gone/],
    ['is over the limit by its stated size', () => importer.take('x', bytes('a'), 1001), /larger than 1\.0 kB/],
    [
      'is over the limit whatever it stated',
      () => importer.take('x', bytes('a'.repeat(600), 'b'.repeat(600)), 3),
      /larger than 1\.0 kB/,
    ],
  ])('that %s leaves nothing', async (_, take, words) => {
    await expect(take()).rejects.toThrow(words);
    expect(left()).toEqual([]);
    expect(await Source.count()).toBe(0);
  });

  test('that failed can be done again', async () => {
    await expect(importer.take('x', bytes('throw once'))).rejects.toThrow();
    await expect(importer.take('x', bytes('throw once'))).rejects.toThrow('out of memory');
    await expect(importer.take('x', bytes('fine'))).resolves.toMatchObject({ name: 'x' });
  });

  test('whose place is taken by a stray folder of an earlier stop succeeds', async () => {
    const first = await importer.take('x', bytes('sound'));
    const { folder } = fresh.data.source(first.sha256);
    await first.destroy();
    rmSync(folder, { recursive: true });
    const stray = fresh.data.unfinishedSource(first.sha256);
    mkdirSync(stray.folder);
    writeFileSync(stray.original, 'half');
    await importer.take('x', bytes('sound'));
    expect(left()).toEqual([first.sha256]);
  });

  test('into a folder that has gone says so and records nothing', async () => {
    rmSync(fresh.data.sources, { recursive: true });
    await expect(importer.take('x', bytes('sound'))).rejects.not.toBeInstanceOf(InputError);
    expect(readdirSync(fresh.data.uploads)).toEqual([]);
    expect(await Source.count()).toBe(0);
    expect(existsSync(fresh.data.sources)).toBe(false);
  });
});
