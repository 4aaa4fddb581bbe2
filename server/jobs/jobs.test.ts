import { randomUUID } from 'node:crypto';
import { applyChange, type Change, newClip, type RankedClip } from '@tambur/core';
import fc from 'fast-check';
import { afterEach, beforeEach, describe, expect, test } from 'vitest';
import { Events } from '../answers/events.ts';
import type { ServerEvent } from '../answers/views.ts';
import { clipRows, freshData, phoneJobRow } from '../fixtures/data.ts';
import { ChangeRow, Clip, Job, Source } from '../models/index.ts';
import { changesAfter, findJob, historyOf, JobChanges, stepsOf, workingJob } from './jobs.ts';

let fresh: Awaited<ReturnType<typeof freshData>>;
let changes: JobChanges;
let told: ServerEvent[];
let clips: RankedClip[];

beforeEach(async () => {
  fresh = await freshData();
  told = [];
  const events = new Events();
  events.listen((event) => told.push(event));
  changes = new JobChanges(fresh.data, fresh.sequelize, events);
  await Source.create({ id: 's', name: 's.wav', sha256: 'sha', key: 'sha', waveform: '', facts: {} as never });
  await Job.bulkCreate([phoneJobRow('j'), phoneJobRow('other')]);
  const rows = clipRows('j', 's', ['Bell', 'Winch', 'Door']);
  await Clip.bulkCreate(rows);
  clips = rows.map(({ clip, rank }) => ({ ...clip, rank }));
});
afterEach(() => fresh.remove());

const job = async () => workingJob(await findJob('j'));
const names = async () => (await job()).clips.map(({ name }) => name);
const named = (index: number, name: string): Change => ({ [`clips/${clips[index].id}`]: { ...clips[index], name } });

describe('changes of a job', () => {
  test('are stored as what they put where, told, and counted', async () => {
    expect(await changes.change('j', 0, named(0, 'Bells'))).toBe(1);
    expect(await names()).toEqual(['Bells', 'Winch', 'Door']);
    expect(told).toEqual([{ type: 'job', jobId: 'j', revision: 1 }]);
    const [row] = await ChangeRow.findAll();
    expect(row.was).toEqual(named(0, 'Bell'));
    expect(row.is).toEqual(named(0, 'Bells'));
    expect(await changesAfter(await findJob('j'), 0)).toEqual([named(0, 'Bells')]);
  });

  test('title, variant and places are changed in the same way, and all of them come back', async () => {
    const before = await job();
    const all: Change = {
      title: 'Bells',
      variant: 'older-sets',
      'places/3': clips[1].id,
      'wishes/level': { peakDb: -3 },
    };
    await changes.change('j', 0, all);
    expect(await job()).toMatchObject({
      title: 'Bells',
      variant: 'older-sets',
      places: { 3: clips[1].id },
      wishes: { level: { peakDb: -3 } },
    });
    await changes.step('j', 'undo');
    expect(await job()).toEqual(before);
  });

  test('undo and redo go through the log, and a new change ends what could be made again', async () => {
    const states = [await names()];
    for (const [i, change] of [named(0, 'A'), { [`clips/${clips[1].id}`]: null }, named(2, 'C')].entries()) {
      await changes.change('j', i, change);
      states.push(await names());
    }
    expect(await historyOf('j')).toEqual({ undo: 3, redo: 0 });
    for (const wanted of [...states].reverse().slice(1)) {
      await changes.step('j', 'undo');
      expect(await names()).toEqual(wanted);
    }
    const { revision } = await findJob('j');
    expect(await changes.step('j', 'undo')).toBe(revision);
    expect(await historyOf('j')).toEqual({ undo: 0, redo: 3 });
    for (const wanted of states.slice(1)) {
      await changes.step('j', 'redo');
      expect(await names()).toEqual(wanted);
    }
    await changes.step('j', 'undo');
    await changes.change('j', null, named(0, 'Z'));
    expect(await historyOf('j')).toEqual({ undo: 3, redo: 0 });
  });

  test('any step can be gone to, back and forth, and what is said of it stays with it', async () => {
    const states = [await names()];
    for (const [i, name] of ['A', 'B', 'C'].entries()) {
      await changes.change('j', i, named(0, name));
      states.push(await names());
    }
    const words = ['A: renamed from Bell', 'B: renamed from A', 'C: renamed from B'];
    for (const last of [1, 3, 0, 2, 2]) {
      await changes.goTo('j', last);
      expect(await names()).toEqual(states[last]);
      const steps = await stepsOf('j');
      expect(steps.map((step) => [step.revision, step.words])).toEqual(words.map((text, i) => [i + 1, text]));
      expect(steps.map(({ isMade }) => isMade)).toEqual([0, 1, 2].map((i) => i < last));
    }
    await expect(changes.goTo('j', 99)).rejects.toThrow(/no longer exists/);
  });

  test('any walk back and forward, with other changes between, gives what a list of states gives', async () => {
    const walk = fc.array(fc.integer({ min: -9, max: 12 }), { minLength: 5, maxLength: 30 });
    await fc.assert(
      fc.asyncProperty(walk, fc.infiniteStream(fc.nat(2)), async (moves, index) => {
        await ChangeRow.destroy({ where: {} });
        const states = [await names()];
        let at = 0;
        let count = 0;
        for (const move of moves) {
          // Below zero so many steps back, up to 8 so many forward, otherwise another change.
          for (let step = 0; step < Math.min(Math.abs(move), 8); step++) {
            await changes.step('j', move < 0 ? 'undo' : 'redo');
            at = Math.max(0, Math.min(states.length - 1, at + Math.sign(move)));
          }
          if (move > 8) {
            await changes.change('j', null, named(index.next().value ?? 0, `name ${count++}`));
            states.splice(++at, states.length, await names());
          }
          expect(await names()).toEqual(states[at]);
          expect(await historyOf('j')).toEqual({ undo: at, redo: states.length - 1 - at });
        }
      }),
      { numRuns: Number(process.env.TAMBUR_ROUNDS ?? 5), seed: 24 },
    );
  });

  test('four hundred steps can be gone back, however often one went back and forward before', async () => {
    const first = await names();
    for (let i = 0; i < 400; i++) await changes.change('j', null, named(i % 3, `name ${i}`));
    const last = await names();
    for (let i = 0; i < 230; i++) await changes.step('j', 'undo');
    const middle = await names();
    for (let i = 0; i < 230; i++) await changes.step('j', 'redo');
    expect(await names()).toEqual(last);
    for (let i = 0; i < 230; i++) await changes.step('j', 'undo');
    expect(await names()).toEqual(middle);
    expect(await historyOf('j')).toEqual({ undo: 170, redo: 230 });
    await changes.goTo('j', 0);
    expect(await names()).toEqual(first);
    await changes.goTo('j', 400);
    expect(await names()).toEqual(last);
    // One more than are kept.
    await changes.change('j', null, named(0, 'more'));
    expect(await historyOf('j')).toEqual({ undo: 400, redo: 0 });
  });

  test('a change of many places takes no longer for each of them, and has a limit', async () => {
    const places = (count: number): Change =>
      Object.fromEntries(Array.from({ length: count }, (_, i) => [`places/${i}`, clips[0].id]));
    // With a copy of the map for each of them this took a minute.
    await changes.change('j', null, places(10_000));
    expect(Object.keys((await job()).places)).toHaveLength(10_000);
    expect(Object.keys(applyChange(await job(), places(10_000)).places)).toHaveLength(10_000);
    await changes.step('j', 'undo');
    expect((await job()).places).toEqual({});
    await expect(changes.change('j', null, places(10_001))).rejects.toThrow(/places: a job has at most 10\u202f000/);
  });

  test('of two windows both stay where they are at other places; at the same one the second is refused', async () => {
    await changes.change('j', 0, named(0, 'one'));
    expect(await changes.change('j', 0, named(1, 'two'))).toBe(2);
    await expect(changes.change('j', 0, named(0, 'three'))).rejects.toThrow(/Another window changed this/);
    await expect(changes.change('j', 1, named(1, 'three'))).rejects.toThrow(/Another window changed this/);
    // An undo is a change too.
    await changes.step('j', 'undo');
    await expect(changes.change('j', 2, named(1, 'three'))).rejects.toThrow(/Another window changed this/);
    expect(await names()).toEqual(['one', 'Winch', 'Door']);
  });

  test.each<[string, () => Change, RegExp]>([
    ['a clip of another job', () => ({ [`clips/${clips[0].id}`]: { ...clips[0] } }), /id of another job's clip/],
    [
      'a source that is not there',
      () => ({ [`clips/${randomUUID()}`]: { ...newClip(randomUUID(), 'X', 'gone'), rank: 'a9' } }),
      /There is no such source/,
    ],
    [
      'a place for no clip',
      () => ({ 'places/1': randomUUID() }),
      /gives a place to a clip that this job does not have/,
    ],
    ['a variant that there is not', () => ({ variant: 'x' }), /has no variant "x"/],
    ['a list that is not kept here', () => ({ 'ownLists/tones': 'a'.repeat(64) }), /list tones is missing/],
    ['a value for no blank', () => ({ 'values/tempo': 90 }), /has no blank "tempo"/],
  ])('%s is refused, and nothing of the change is stored', async (what, change, message) => {
    const id = what.includes('another job') ? 'other' : 'j';
    await expect(changes.change(id, 0, { title: 'Half', ...change() })).rejects.toThrow(message);
    expect((await findJob(id)).title).not.toBe('Half');
    expect(await ChangeRow.count()).toBe(0);
    expect(told).toEqual([]);
  });

  test('clips that are added come last, and can be taken back', async () => {
    await changes.addClips('j', [newClip('', 'New', 's', { start: 3 }), newClip('', 'Newer', 's')]);
    expect(await names()).toEqual(['Bell', 'Winch', 'Door', 'New', 'Newer']);
    await changes.step('j', 'undo');
    expect(await names()).toEqual(['Bell', 'Winch', 'Door']);
  });

  test('who slept too long is told to load it all', async () => {
    await changes.change('j', 0, named(0, 'A'));
    await ChangeRow.destroy({ where: { revision: 1 } });
    await changes.change('j', 1, named(1, 'B'));
    expect(await changesAfter(await findJob('j'), 0)).toBeNull();
    expect(await changesAfter(await findJob('j'), 1)).toEqual([named(1, 'B')]);
    await expect(changes.change('j', 0, named(2, 'C'))).rejects.toThrow(/Another window changed this/);
  });

  test('of a thousand clips one change stores less than 2 kB', async () => {
    await Clip.destroy({ where: {} });
    const rows = clipRows(
      'j',
      's',
      Array.from({ length: 1000 }, (_, i) => `Clip ${i}`),
    );
    await Clip.bulkCreate(rows);
    const { clip, rank } = rows[500];
    const change = {
      [`clips/${clip.id}`]: {
        ...clip,
        rank,
        wishes: { level: { loudness: -16, ceilingDb: -1 }, ends: { fadeIn: { ms: 20 } } },
      },
    };
    await changes.change('j', 0, change);
    expect(JSON.stringify(change).length).toBeLessThan(2000);
    const [row] = await ChangeRow.findAll();
    expect(JSON.stringify(row.get()).length).toBeLessThan(2000);
    await expect(changes.addClips('j', [newClip('', 'One more', 's')])).rejects.toThrow(/at most 1 000 clips/);
  });
});
