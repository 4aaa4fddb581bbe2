import { readdirSync } from 'node:fs';
import { afterEach, beforeEach, describe, expect, test, vi } from 'vitest';
import type { ShelfView } from '../answers/views.ts';
import { clipRows, freshData, phoneJobRow, workerFile } from '../fixtures/data.ts';
import { Importer } from '../imports/importer.ts';
import { Clip, Job, Source, writing } from '../models/index.ts';
import { shelf } from '../models/listings.ts';
import { deleteSource, restoreSources } from './shelf.ts';

const onShelf = async () => JSON.parse(await shelf()) as ShelfView[];

let fresh: Awaited<ReturnType<typeof freshData>>;
let importer: Importer;

beforeEach(async () => {
  fresh = await freshData();
  importer = new Importer(fresh.data, fresh.sequelize, workerFile);
});

afterEach(async () => {
  vi.useRealTimers();
  await importer.close();
  await fresh.remove();
});

async function* bytes(text: string) {
  yield Buffer.from(text);
}

const clipOf = async (source: Source, title: string, names: readonly string[]) => {
  const job = await Job.create(phoneJobRow(title));
  await Clip.bulkCreate(clipRows(job.id, source.id, names));
};

describe('the shelf', () => {
  test('shows every source with the jobs that use it', async () => {
    const bell = await importer.take('bell.wav', bytes('bell'));
    await importer.take('wind.wav', bytes('wind'));
    await clipOf(bell, 'Phones', ['Bell', 'Bell again']);
    await clipOf(bell, 'Cabin', ['Door']);
    const views = await onShelf();
    expect(views.map(({ name }) => name).sort()).toEqual(['bell.wav', 'wind.wav']);
    const usedBy = views.find(({ id }) => id === bell.id)?.usedBy;
    expect(usedBy).toContainEqual({ jobId: 'Phones', title: 'Phones', clips: 2 });
    expect(usedBy).toContainEqual({ jobId: 'Cabin', title: 'Cabin', clips: 1 });
  });

  test('refuses to delete what a clip uses, and says which', async () => {
    const bell = await importer.take('bell.wav', bytes('bell'));
    await clipOf(bell, 'Phones', ['Bell', 'Bell again']);
    await expect(deleteSource(bell, fresh.data, fresh.sequelize)).rejects.toThrow(
      'bell.wav is used by the clip Bell of Phones and 1 more; remove those clips first.',
    );
  });

  test('a deletion can be undone; importing the same bytes undoes it too', async () => {
    const bell = await importer.take('bell.wav', bytes('bell'));
    await deleteSource(bell, fresh.data, fresh.sequelize);
    expect(await onShelf()).toEqual([]);
    await writing(fresh.sequelize, (transaction) => restoreSources([bell.id], transaction));
    expect(await onShelf()).toHaveLength(1);
    await deleteSource(await bell.reload(), fresh.data, fresh.sequelize);
    expect((await importer.take('bell again.wav', bytes('bell'))).id).toBe(bell.id);
    expect((await onShelf())[0]?.name).toBe('bell again.wav');
  });

  test('what was deleted long ago goes for good, with its files', async () => {
    const [bell, wind] = [await importer.take('bell', bytes('bell')), await importer.take('wind', bytes('wind'))];
    await deleteSource(bell, fresh.data, fresh.sequelize);
    await bell.update({ deletedAt: new Date(Date.now() - 3_600_000) });
    await deleteSource(wind, fresh.data, fresh.sequelize);
    expect(readdirSync(fresh.data.sources)).toEqual([wind.key]);
    expect((await Source.findAll()).map(({ id }) => id)).toEqual([wind.id]);
  });
});
