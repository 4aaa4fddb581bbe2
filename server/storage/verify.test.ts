import { mkdirSync, rmSync, writeFileSync } from 'node:fs';
import { sha256Of } from '@tambur/disk';
import { afterEach, beforeEach, expect, test } from 'vitest';
import { freshData } from '../fixtures/data.ts';
import { Source } from '../models/index.ts';
import { troubleWords, verifyAll, verifySome } from './verify.ts';

let fresh: Awaited<ReturnType<typeof freshData>>;
const original = (key: string) => fresh.data.source(key).original;

beforeEach(async () => {
  fresh = await freshData();
  for (const name of ['a', 'b', 'c']) {
    const sha256 = sha256Of(name);
    mkdirSync(fresh.data.source(sha256).folder);
    writeFileSync(original(sha256), name);
    await Source.create({ id: name, name: `${name}.wav`, sha256, key: sha256, waveform: '', facts: {} as never });
  }
  writeFileSync(fresh.data.list(sha256Of('list')), 'list');
});
afterEach(() => fresh.remove());

test('what is as it was is found so, all of it or some', async () => {
  expect(await verifyAll(fresh.data, fresh.sequelize)).toEqual({ files: 4, troubles: [] });
  expect(await verifySome(fresh.data, fresh.sequelize)).toEqual({ files: 3, troubles: [] });
  // Two bytes of originals: two of the three.
  expect(await verifySome(fresh.data, fresh.sequelize, 2)).toEqual({ files: 2, troubles: [] });
});

test('an original that is gone, one with other bytes and a list with others are named', async () => {
  rmSync(original(sha256Of('a')));
  writeFileSync(original(sha256Of('b')), 'B');
  writeFileSync(fresh.data.list(sha256Of('list')), 'another');
  const { troubles } = await verifyAll(fresh.data, fresh.sequelize);
  expect(troubles.toSorted()).toEqual([
    'a.wav is gone',
    'b.wav is damaged',
    expect.stringMatching(/^the list [0-9a-f]{8} is damaged$/),
  ]);
  expect((await verifySome(fresh.data, fresh.sequelize)).troubles).toHaveLength(2);
});

test('many troubles are one sentence', () => {
  const many = Array.from({ length: 8 }, (_, i) => `${i}.wav is gone`);
  expect(troubleWords(many)).toBe(`${many.slice(0, 5).join(', ')}, and 3 more`);
});
