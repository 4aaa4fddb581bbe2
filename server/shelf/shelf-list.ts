import { CORE_VERSION } from '@tambur/core';
import type { Sequelize } from 'sequelize';
import type { ShelfFilter, ShelfOrder, ShelfQuery } from '../answers/views.ts';
import { Job, ShelfEntry, Source, writing } from '../models/index.ts';
import { jsonOf } from '../models/listings.ts';
import { entryOf, isDescribed, searchable } from '../models/shelf-entry.ts';

/** Entries that are made at a time. */
const AT_ONCE = 500;

/** Makes the entries that there are not, and those in the words of another version. */
export async function renewEntries(sequelize: Sequelize): Promise<void> {
  const good = await ShelfEntry.findAll({ attributes: ['sourceId'], where: { madeBy: CORE_VERSION }, raw: true });
  const known = new Set(good.map(({ sourceId }) => sourceId));
  const all = await Source.findAll({ attributes: ['id'], raw: true });
  const missing = all.map(({ id }) => id).filter((id) => !known.has(id));
  for (let at = 0; at < missing.length; at += AT_ONCE) {
    const sources = await Source.findAll({ where: { id: missing.slice(at, at + AT_ONCE) } });
    const rows = sources.filter(isDescribed).map(entryOf);
    await writing(sequelize, async (transaction) => {
      await ShelfEntry.destroy({ where: { sourceId: rows.map(({ sourceId }) => sourceId) }, transaction });
      await ShelfEntry.bulkCreate(rows, { transaction });
    });
  }
}

const JOBS_OF = '(SELECT count(DISTINCT jobId) FROM clips WHERE clips.sourceId = entry.sourceId)';

const orders: Readonly<Record<ShelfOrder, string>> = {
  name: 'entry.name',
  kind: 'entry.kindTitle',
  rate: 'entry.sampleRate',
  channels: 'entry.channels',
  length: 'entry.seconds',
  size: 'entry.bytes',
  jobs: JOBS_OF,
  added: 'entry.addedAt',
};

const conditionOf = (filter: ShelfFilter): string =>
  filter === 'all'
    ? '1'
    : filter === 'remarked'
      ? 'entry.isRemarked'
      : filter === 'unused'
        ? 'NOT EXISTS (SELECT 1 FROM clips WHERE clips.sourceId = entry.sourceId)'
        : 'entry.kind = :filter';

/**
 * Sources of which each word of the search occurs in their words, or in the title of a job that uses them: the JSON of a
 * `ShelfList`.
 */
export async function shelfList({ search, filter, order, isDescending }: ShelfQuery): Promise<string> {
  const words = searchable(search).split(/\s+/).filter(Boolean);
  const titles = words.length ? await Job.findAll({ attributes: ['id', 'title'], raw: true }) : [];
  const replacements: Record<string, unknown> = { filter };
  const conditions = words.map((word, i) => {
    const jobIds = titles.filter(({ title }) => searchable(title).includes(word)).map(({ id }) => id);
    replacements[`word${i}`] = word;
    replacements[`jobs${i}`] = jobIds;
    const inTitles = jobIds.length
      ? `OR entry.sourceId IN (SELECT sourceId FROM clips WHERE jobId IN (:jobs${i}))`
      : '';
    return `(instr(entry.words, :word${i}) > 0 ${inTitles})`;
  });
  const direction = isDescending ? 'DESC' : 'ASC';
  // Where all words have to be read, going through them as they lie is faster than in the order of an index: "+" forgoes it.
  const by = words.length ? `+${orders[order]}` : orders[order];
  return jsonOf(
    `SELECT json_object(
      'all', (SELECT count(*) FROM sources WHERE deletedAt IS NULL),
      'ids', json_group_array(id)) AS json
    FROM (
      SELECT entry.sourceId AS id FROM shelf_entries AS entry
      WHERE entry.sourceId NOT IN (SELECT id FROM sources WHERE deletedAt IS NOT NULL)
        AND ${[conditionOf(filter), ...conditions].join(' AND ')}
      ORDER BY ${by} ${direction}, entry.addedAt DESC, entry.sourceId)`,
    replacements,
  );
}
