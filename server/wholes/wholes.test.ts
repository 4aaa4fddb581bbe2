import { readdirSync } from 'node:fs';
import { automaticSettings, targetOf } from '@tambur/core';
import { afterEach, beforeEach, expect, test } from 'vitest';
import { factsFixture, freshData, workerFile } from '../fixtures/data.ts';
import { Source } from '../models/index.ts';
import { Wholes } from './wholes.ts';

let fresh: Awaited<ReturnType<typeof freshData>>;
let wholes: Wholes;
let source: Source;

beforeEach(async () => {
  fresh = await freshData();
  wholes = new Wholes(fresh.data, workerFile, workerFile);
  source = await Source.create({
    id: 's',
    name: 's.wav',
    sha256: 'sha',
    key: 'sha',
    waveform: '',
    facts: factsFixture(),
  });
});

afterEach(async () => {
  await wholes.close();
  await fresh.remove();
});

/** The stand-in for the worker does as the first word says. */
const order = (word: string) => ({
  settings: automaticSettings(word),
  target: targetOf('desk-phone-ring-tone'),
  stem: word,
});
const onDisk = () => readdirSync(fresh.data.wholes);

test('a whole is made once; two are kept, those that were asked for last', async () => {
  const first = await wholes.make(source, order('a'));
  expect(String.fromCharCode(...first.head)).toBe('a');
  expect(wholes.find(first.id).files.original).toBe(fresh.data.whole(first.id, 'a.raw').original);
  expect(onDisk()).toEqual([first.id]);
  const second = await wholes.make(source, order('b'));
  expect(await wholes.make(source, order('a'))).toBe(first);
  const third = await wholes.make(source, order('c'));
  expect(onDisk().sort()).toEqual([first.id, third.id].sort());
  expect(() => wholes.find(second.id)).toThrow('There is no such result');
});

test('what its device plays is made once, beside it, and goes with it', async () => {
  const { id } = await wholes.make(source, order('a'));
  expect(() => wholes.findOnDevice(id)).toThrow('There is no such sound');
  const heard = await wholes.playOnDevice(id);
  expect(await wholes.playOnDevice(id)).toBe(heard);
  expect(wholes.findOnDevice(id)).toEqual({ files: fresh.data.onDevice(id), facts: heard });
  expect(readdirSync(fresh.data.whole(id, '').folder).sort()).toEqual(['a.raw', 'device']);
  for (const word of ['b', 'c']) await wholes.make(source, order(word));
  expect(onDisk()).not.toContain(id);
  await expect(wholes.playOnDevice(id)).rejects.toThrow('There is no such result');
});

test.each([
  ['refuse', 'The file is of no use.'],
  ['throw', 'out of memory'],
])('what ends with %s leaves nothing', async (word, message) => {
  await expect(wholes.make(source, order(word))).rejects.toThrow(message);
  expect(onDisk()).toEqual([]);
});

test('one that nobody waits for any more ends, and who waits for the same goes on', async () => {
  const stop = new AbortController();
  const given = wholes.make(source, order('hang'), { signal: stop.signal });
  const ended = expect(given).rejects.toThrow('enough');
  await expect.poll(onDisk).toHaveLength(1);
  const second = new AbortController();
  const other = wholes.make(source, order('hang'), { signal: second.signal });
  stop.abort(new Error('enough'));
  await ended;
  // It has begun again, for the one that is left.
  await expect.poll(onDisk).toHaveLength(1);
  second.abort(new Error('enough too'));
  await expect(other).rejects.toThrow('enough too');
  expect(onDisk()).toEqual([]);
});
