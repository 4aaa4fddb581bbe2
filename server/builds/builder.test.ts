import { randomUUID } from 'node:crypto';
import { mkdirSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { CORE_VERSION, EMPTY_JOB, targetOf } from '@tambur/core';
import { pino } from 'pino';
import { afterEach, beforeEach, describe, expect, test } from 'vitest';
import { Events } from '../answers/events.ts';
import type { ServerEvent } from '../answers/views.ts';
import { clipRows, factsFixture, freshData, phoneJobRow, workerFile } from '../fixtures/data.ts';
import { Importer } from '../imports/importer.ts';
import { ArtifactRow, Delivery, Job, Source } from '../models/index.ts';
import { tidy } from '../start/tidy.ts';
import { Builder } from './builder.ts';

let fresh: Awaited<ReturnType<typeof freshData>>;
let builder: Builder;
let told: ServerEvent[];

const newBuilder = () => {
  const events = new Events();
  events.listen((event) => told.push(event));
  return new Builder(fresh.data, fresh.sequelize, events, pino({ level: 'silent' }), workerFile);
};

beforeEach(async () => {
  fresh = await freshData();
  told = [];
  builder = newBuilder();
  await Source.create({
    id: 's',
    name: 's.wav',
    sha256: 'sha',
    key: 'sha',
    waveform: '',
    facts: factsFixture(),
  });
  await Job.create(phoneJobRow('j', 'Job'));
});

afterEach(async () => {
  await builder.close();
  await fresh.remove();
});

/** A delivery of clips with these names; the stand-in for the worker does as their first word says. */
const delivery = (names: readonly string[], sourceId = 's') => {
  const id = randomUUID();
  const clips = clipRows('j', sourceId, names).map(({ clip }) => clip);
  return Delivery.create({
    id,
    jobId: 'j',
    state: 'building',
    record: {
      format: 2,
      id,
      core: CORE_VERSION,
      job: { ...EMPTY_JOB, format: 2, title: 'Job', sheet: 'desk-phone-ring-tone', variant: null, clips },
      sheet: targetOf('desk-phone-ring-tone'),
      sources: {},
      findings: [],
    },
  });
};

const ended = (id: string) =>
  expect
    .poll(async () => [(await Delivery.findByPk(id))?.state !== 'building', told.at(-1)?.type])
    .toEqual([true, 'built'])
    .then(() => Delivery.findByPk(id, { rejectOnEmpty: true }));

const artifacts = () => ArtifactRow.findAll({ order: [['position', 'ASC']] });
const onDisk = () => readdirSync(fresh.data.deliveries);

describe('a build', () => {
  test('makes every file and the list file, in order, and shows them only when all are there', async () => {
    const row = await delivery(['Bell', 'Winch', 'Bell']);
    builder.start(row);
    expect(builder.progressOf(row.id)).toEqual([0, 0, 0]);
    expect((await ended(row.id)).state).toBe('done');
    expect(onDisk()).toEqual([row.id]);
    const files = await artifacts();
    expect(files.map(({ path, role }) => [path, role])).toEqual([
      ['bell.raw', 'sound'],
      ['winch.raw', 'sound'],
      ['bell-2.raw', 'sound'],
      ['ring-tones.txt', 'list'],
    ]);
    const clips = row.record.job.clips.map(({ id }) => [id]);
    expect(files.map(({ parts }) => parts.map(({ clip }) => clip))).toEqual([...clips, []]);
    // Each is known by all that it was made of.
    const made = files.map(({ madeOf }) => madeOf);
    expect(new Set(made).size).toBe(4);
    expect(made.every((hash) => /^[0-9a-f]{64}$/.test(hash))).toBe(true);
    expect(readFileSync(join(fresh.data.delivery(row.id), 'ring-tones.txt'), 'utf8')).toBe(
      'Bell\tbell.raw\nWinch\twinch.raw\nBell\tbell-2.raw\n',
    );
    expect(told.at(-1)).toEqual({ type: 'built', deliveryId: row.id, jobId: 'j', state: 'done' });
    expect(builder.progressOf(row.id)).toBeNull();
  });

  test.each([
    ['every clip is refused', ['refuse this'], 's', 'refuse this: The file is of no use.'],
    ['a worker throws', ['throw'], 's', /for a reason that is in the server log/],
    ['a worker dies', ['die'], 's', /for a reason that is in the server log/],
    ['a source has gone', ['Bell'], 'nobody', 'Bell: its source is no longer on the shelf; add it again.'],
  ])('in which %s fails with its reason and leaves nothing', async (_, names, sourceId, reason) => {
    const row = await delivery(names, sourceId);
    builder.start(row);
    const after = await ended(row.id);
    expect(after.state).toBe('failed');
    expect(after.error).toMatch(reason);
    expect(onDisk()).toEqual([]);
    expect(await ArtifactRow.count()).toBe(0);
  });

  test('in which some clips fail delivers the others, in their slots, and says which failed', async () => {
    const row = await delivery(['Bell', 'refuse this', 'throw', 'Winch']);
    builder.start(row);
    const after = await ended(row.id);
    expect(after.state).toBe('done');
    expect(after.error).toMatch(
      /^Not built: refuse this: The file is of no use\. throw: The build failed for a reason that is in the server log/,
    );
    expect((await artifacts()).map(({ path }) => path)).toEqual(['bell.raw', 'winch.raw', 'ring-tones.txt']);
  });

  test('takes over what was made of the same before, as long as it is what it was', async () => {
    const built = async () => {
      const row = await delivery(['once']);
      builder.start(row);
      return ended(row.id);
    };
    const first = await built();
    // The worker would fail now.
    const second = await built();
    expect([first.state, second.state]).toEqual(['done', 'done']);
    const [file, taken] = (await artifacts()).filter(({ path }) => path === 'once.raw');
    expect(taken).toMatchObject({ path: 'once.raw', sha256: file?.sha256, madeOf: file?.madeOf });
    expect(taken?.parts[0]?.clip).toBe(second.record.job.clips[0]?.id);
    expect(readFileSync(join(fresh.data.delivery(second.id), 'once.raw'), 'utf8')).toBe('once');
    for (const { id } of [first, second]) writeFileSync(join(fresh.data.delivery(id), 'once.raw'), 'else');
    expect((await built()).state).toBe('failed');
  });

  test('can be made again and compared; of that nothing is kept', async () => {
    const row = await delivery(['Bell', 'Winch']);
    builder.start(row);
    await ended(row.id);
    const again = (signal = new AbortController().signal) => builder.buildAgain(row, signal);
    expect(await again()).toEqual({ total: 3, different: [], failures: [], madeBy: CORE_VERSION });
    await ArtifactRow.update({ sha256: 'another' }, { where: { path: 'winch.raw' } });
    expect((await again()).different).toEqual(['winch.raw']);
    await expect(again(AbortSignal.abort(new Error('enough')))).rejects.toThrow('enough');
    expect(onDisk()).toEqual([row.id]);
  });

  test('into a folder that cannot be written says so', async () => {
    rmSync(fresh.data.deliveries, { recursive: true });
    const row = await delivery(['Bell']);
    builder.start(row);
    expect((await ended(row.id)).error).toMatch(/could not be written into the data folder: a folder or file is gone/);
  });

  test('can be cancelled, and leaves nothing', async () => {
    // In this order it holds with one thread too.
    const row = await delivery(['Bell', 'hang']);
    builder.start(row);
    await expect.poll(() => readdirSync(fresh.data.unfinishedDelivery(row.id))).toContain('bell.raw');
    expect(await builder.cancel(row.id)).toBe(true);
    expect((await row.reload()).state).toBe('cancelled');
    expect(onDisk()).toEqual([]);
    expect(await builder.cancel(row.id)).toBe(false);
  });

  test('that the end of the server cut short starts again with the next one', async () => {
    const row = await delivery(['hang', 'Bell']);
    builder.start(row);
    await expect.poll(onDisk).toEqual([`${row.id}.part`]);
    await builder.close();
    expect((await row.reload()).state).toBe('building');

    mkdirSync(join(fresh.data.deliveries, 'never-recorded'));
    mkdirSync(join(fresh.data.sources, 'half.part'));
    builder = newBuilder();
    const importer = new Importer(fresh.data, fresh.sequelize, workerFile);
    expect(await tidy(fresh.data, fresh.sequelize, importer, builder)).toEqual([
      'Removed 1 unfinished import.',
      'Removed the files of 1 unfinished build.',
      `Moved 1 entry that nothing refers to into ${fresh.data.lost}, with a list of them.`,
      'Started the build of Job again.',
    ]);
    expect(readdirSync(fresh.data.lost).some((name) => name.endsWith('never-recorded'))).toBe(true);
    await builder.cancel(row.id);
    expect(await tidy(fresh.data, fresh.sequelize, importer, builder)).toEqual([]);
    await importer.close();
  });
});
