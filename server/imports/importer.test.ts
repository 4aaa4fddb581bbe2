import { existsSync, mkdirSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { FACTS_VERSION, InputError } from '@tambur/core';
import { afterEach, beforeEach, describe, expect, test } from 'vitest';
import { freshData, workerFile } from '../fixtures/data.ts';
import { Source } from '../models/index.ts';
import { Importer } from './importer.ts';

let fresh: Awaited<ReturnType<typeof freshData>>;
let importer: Importer;

beforeEach(async () => {
  fresh = await freshData();
  importer = new Importer(fresh.data, fresh.sequelize, workerFile, 1000);
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
    [
      'is refused as too large',
      () => importer.take('x.wav', bytes('refuse, too large')),
      /^x\.wav: The file is of no use\.$/,
    ],
    ['throws in the decoder', () => importer.take('x', bytes('throw')), /out of memory/],
    ['takes the decoder down', () => importer.take('x', bytes('die')), /./],
    ['breaks off while it is sent', () => importer.take('x', bytes('half', new Error('gone'))), /gone/],
    [
      'is over the limit by its stated size',
      () => importer.take('x', bytes('a'), { length: 1001 }),
      /larger than 1\.0 kB/,
    ],
    [
      'is over the limit whatever it stated',
      () => importer.take('x', bytes('a'.repeat(600), 'b'.repeat(600)), { length: 3 }),
      /larger than 1\.0 kB/,
    ],
  ])('that %s leaves nothing', async (_, take, words) => {
    await expect(take()).rejects.toThrow(words);
    expect(left()).toEqual([]);
    expect(await Source.count()).toBe(0);
  });

  test('that wants ever more memory is ended, and leaves nothing', async () => {
    const watchful = new Importer(fresh.data, fresh.sequelize, workerFile, 1000, 200_000_000);
    await expect(watchful.take('x.wav', bytes('swell'))).rejects.toThrow(/^x\.wav: There is not enough memory/);
    await watchful.close();
    expect(left()).toEqual([]);
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

  test('that is cancelled while it is decoded leaves nothing, and can be done again', async () => {
    const abort = new AbortController();
    const work = importer.take('x', bytes('hang'), { signal: abort.signal });
    await expect.poll(() => readdirSync(fresh.data.sources)).toHaveLength(1);
    abort.abort(new Error('enough'));
    await expect(work).rejects.toThrow();
    expect(left()).toEqual([]);
    await expect(importer.take('x', bytes('fine'))).resolves.toMatchObject({ name: 'x' });
  });

  test('of the same bytes as another reading, or another of their sounds, is another source; deleting one leaves the other', async () => {
    const plain = await importer.take('x', bytes('sound'));
    const reading = { encoding: 'mu-law', sampleRate: 8000, channels: 1 };
    const read = await importer.take('x', bytes('sound'), { reading });
    const second = await importer.again(plain, { track: 1 });
    expect(new Set([plain.id, read.id, second.id]).size).toBe(3);
    expect(new Set([plain.sha256, read.sha256, second.sha256]).size).toBe(1);
    expect(read.reading).toEqual(reading);
    expect(second.track).toBe(1);
    for (const { key } of [plain, read, second]) {
      expect(readFileSync(fresh.data.source(key).original, 'utf8')).toBe('sound');
    }
    expect((await importer.again(plain, { track: 1 })).id).toBe(second.id);
    expect((await importer.take('x', bytes('sound'), { reading: { ...reading } })).id).toBe(read.id);
  });

  test('tells how far it is', async () => {
    const told: unknown[] = [];
    const heard = new AbortController();
    const onProgress = (progress: unknown) => {
      told.push(progress);
      heard.abort();
    };
    await expect(importer.take('x', bytes('tell'), { onProgress, signal: heard.signal })).rejects.toThrow();
    expect(told).toEqual([{ frames: 1, expected: 2 }]);
  });
});

describe('facts of an older version', () => {
  test('are read anew at the start; the bytes stay as they are', async () => {
    const source = await importer.take('x', bytes('sound'));
    expect(await importer.renewFacts()).toEqual([]);
    await source.update({ facts: { ...source.facts, version: 1, frames: 77 } });
    expect(await importer.renewFacts()).toEqual(['Read 1 of the sources again, to update their facts.']);
    await source.reload();
    expect(source.facts).toMatchObject({ version: FACTS_VERSION, frames: 2 });
    expect(readFileSync(fresh.data.source(source.key).original, 'utf8')).toBe('sound');
    expect(left()).toEqual([source.key]);
  });

  test('a source whose file is gone from the data folder does not stop the start', async () => {
    const source = await importer.take('x', bytes('sound'));
    const older = { ...source.facts, version: 1 };
    await source.update({ facts: older as never });
    rmSync(fresh.data.source(source.key).folder, { recursive: true });
    await importer.renewFacts();
    await source.reload();
    expect(source.facts.frames).toBe(2);
    expect(source.facts.warnings[0]).toMatch(/gone from the data folder/);
    expect(left()).toEqual([]);
  });

  test('of a file that cannot be read any more stay as far as they are known, with a warning', async () => {
    const source = await importer.take('x', bytes('sound'));
    const { measures: _, ...older } = { ...source.facts, version: 1 };
    await source.update({ facts: older as never });
    writeFileSync(fresh.data.source(source.key).original, 'refuse');
    await importer.renewFacts();
    await source.reload();
    expect(source.facts).toMatchObject({
      version: FACTS_VERSION,
      frames: 2,
      measures: { truePeak: 0.5, loudness: null },
    });
    expect(source.facts.warnings[0]).toMatch(
      /^These facts come from an older version of Tambur; .* The file is of no use\.$/,
    );
    expect(left()).toEqual([source.key]);
  });
});
