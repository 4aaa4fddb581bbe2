import { QueryTypes } from 'sequelize';
import type { ShelfView } from '../answers/views.ts';
import { Source } from './index.ts';

/**
 * What a query gives as `json`, as it is. SQLite puts lists together, in a thread of its own: of twenty thousand sources
 * that takes a third of the time that reading and writing each row as an object takes.
 */
export async function jsonOf(query: string, replacements = {}): Promise<string> {
  const [row] =
    (await Source.sequelize?.query<{ json: string }>(query, { type: QueryTypes.SELECT, replacements })) ?? [];
  if (!row) throw new Error('a query for JSON gave no row');
  return row.json;
}

const SOURCES = `
  WITH uses AS (
    SELECT counted.sourceId, json_group_array(
      json_object('jobId', counted.jobId, 'title', jobs.title, 'clips', counted.clips)) AS jobs
    FROM (SELECT sourceId, jobId, count(*) AS clips FROM clips WHERE :all OR sourceId IN (:ids)
          GROUP BY sourceId, jobId) AS counted
    JOIN jobs ON jobs.id = counted.jobId
    GROUP BY counted.sourceId)
  SELECT json_group_array(json_object(
    'id', source.id, 'name', name, 'sha256', sha256, 'facts', json(facts), 'waveform', waveform,
    'createdAt', strftime('%Y-%m-%dT%H:%M:%fZ', createdAt), 'usedBy', json(ifnull(uses.jobs, '[]')))) AS json
  FROM (SELECT * FROM sources WHERE deletedAt IS NULL AND (:all OR id IN (:ids)) ORDER BY createdAt DESC) AS source
  LEFT JOIN uses ON uses.sourceId = source.id`;

/** All sources or those of some ids, the newest first: the JSON of `ShelfView[]`. */
export const shelf = (ids?: readonly string[]): Promise<string> =>
  jsonOf(SOURCES, { all: ids === undefined, ids: ids ?? [''] });

export async function shelfEntry({ id }: Source): Promise<ShelfView> {
  const [entry] = JSON.parse(await shelf([id])) as ShelfView[];
  if (!entry) throw new Error(`source ${id} is not on the shelf`);
  return entry;
}

/** Of each job so many clips are named. */
const NAMED = 6;

const JOBS = `
  SELECT json_group_array(json_object(
    'id', id, 'title', title, 'sheet', targetId, 'variant', variantId,
    'clipCount', (SELECT count(*) FROM clips WHERE jobId = job.id),
    'clipNames', json((SELECT json_group_array(name) FROM
      (SELECT json_extract(clip, '$.name') AS name FROM clips WHERE jobId = job.id ORDER BY rank LIMIT ${NAMED}))),
    'delivery', json((SELECT json_object(
        'id', id, 'state', state,
        'bytes', ifnull((SELECT sum(bytes) FROM artifacts WHERE deliveryId = delivery.id), 0))
      FROM deliveries AS delivery WHERE jobId = job.id ORDER BY createdAt DESC LIMIT 1)))) AS json
  FROM (SELECT * FROM jobs ORDER BY createdAt) AS job`;

/** All jobs, the oldest first: the JSON of `JobSummary[]`. */
export const jobs = (): Promise<string> => jsonOf(JOBS);
