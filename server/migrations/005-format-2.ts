import { type DeliveryRecord, ranksAfter, upcast } from '@tambur/core';
import { type QueryInterface, QueryTypes, Transaction } from 'sequelize';

type Row = Readonly<Record<string, unknown>>;

const json = (value: unknown): unknown => JSON.parse(String(value));

/**
 * Documents of format 2: sheets, clips and deliveries are brought up by the same steps as files that come from outside.
 * Jobs get what they say beside their clips, and the log of their changes. All of it or nothing.
 */
export async function up(db: QueryInterface): Promise<void> {
  const { sequelize } = db;
  await sequelize.transaction({ type: Transaction.TYPES.IMMEDIATE }, async (transaction) => {
    const run = (query: string, replacements: Record<string, unknown> = {}) =>
      sequelize.query(query, { replacements, transaction });
    const rowsOf = (query: string, replacements: Record<string, unknown> = {}) =>
      sequelize.query<Row>(query, { type: QueryTypes.SELECT, replacements, transaction });

    for (const { id, sheet } of await rowsOf('SELECT id, sheet FROM sheets')) {
      const document = upcast('sheet', json(sheet), String(id));
      await run('UPDATE sheets SET sheet = :sheet WHERE id = :id', { id, sheet: JSON.stringify(document) });
    }

    await run("ALTER TABLE jobs ADD COLUMN more JSON NOT NULL DEFAULT '{}'");
    await run("ALTER TABLE clips ADD COLUMN rank VARCHAR(255) NOT NULL DEFAULT ''");
    await run("ALTER TABLE clips ADD COLUMN clip JSON NOT NULL DEFAULT '{}'");
    for (const { id, title, targetId, variantId } of await rowsOf('SELECT * FROM jobs')) {
      const rows = await rowsOf('SELECT id, sourceId, settings FROM clips WHERE jobId = :id ORDER BY position', { id });
      const old = rows.map((row) => ({ ...row, settings: json(row.settings) }));
      const document = upcast('job', { title, targetId, variantId, clips: old }, String(title));
      const { clips, values, wishes, places, ownLists } = document as Row & { readonly clips: readonly Row[] };
      const more = JSON.stringify({ values, wishes, places, ownLists });
      await run('UPDATE jobs SET more = :more WHERE id = :id', { id, more });
      const ranks = ranksAfter([], clips.length);
      for (const [i, clip] of clips.entries()) {
        const filled = { id: clip.id, rank: ranks[i], clip: JSON.stringify(clip) };
        await run('UPDATE clips SET rank = :rank, clip = :clip WHERE id = :id', filled);
      }
    }
    await run('DROP INDEX IF EXISTS clips_job_id_position');
    await run('ALTER TABLE clips DROP COLUMN position');
    await run('ALTER TABLE clips DROP COLUMN settings');
    await run('CREATE INDEX clips_job_id_rank ON clips (jobId, rank)');
    await run(
      `CREATE TABLE changes (
        id INTEGER PRIMARY KEY AUTOINCREMENT,
        jobId VARCHAR(255) NOT NULL REFERENCES jobs (id) ON DELETE CASCADE,
        revision INTEGER NOT NULL,
        kind VARCHAR(255) NOT NULL,
        was JSON NOT NULL,
        "is" JSON NOT NULL
      )`,
    );
    await run('CREATE UNIQUE INDEX changes_job_id_revision ON changes (jobId, revision)');

    await run("ALTER TABLE deliveries ADD COLUMN record JSON NOT NULL DEFAULT '{}'");
    await run(
      `CREATE TABLE artifacts (
        id INTEGER PRIMARY KEY AUTOINCREMENT,
        deliveryId VARCHAR(255) NOT NULL REFERENCES deliveries (id) ON DELETE CASCADE,
        position INTEGER NOT NULL,
        path VARCHAR(255) NOT NULL,
        role VARCHAR(255) NOT NULL,
        bytes INTEGER NOT NULL,
        sha256 VARCHAR(255) NOT NULL,
        madeOf VARCHAR(255) NOT NULL,
        parts JSON NOT NULL
      )`,
    );
    await run('CREATE INDEX artifacts_delivery_id_position ON artifacts (deliveryId, position)');
    const sources = new Map(
      (await rowsOf('SELECT id, sha256, reading, track, facts FROM sources')).map(
        ({ id, sha256, reading, track, facts }) => [
          id,
          { sha256, reading: reading === null ? null : json(reading), track, facts: json(facts) },
        ],
      ),
    );
    for (const { id, order, setFindings } of await rowsOf('SELECT * FROM deliveries')) {
      const files = await rowsOf('SELECT * FROM delivered_files WHERE deliveryId = :id ORDER BY position', { id });
      const told = files.map(({ facts, report, findings, ...file }) => ({
        ...file,
        facts: facts === null ? null : json(facts),
        report: report === null ? null : json(report),
        findings: json(findings),
      }));
      const old = { id, order: json(order), setFindings: json(setFindings), files: told };
      const { artifacts, ...record } = upcast('delivery', old, String(id)) as DeliveryRecord;
      const used = new Set(record.job.clips.flatMap(({ pieces }) => pieces.map(({ source }) => source)));
      const known = Object.fromEntries([...sources].filter(([source]) => used.has(String(source))));
      await run('UPDATE deliveries SET record = :record WHERE id = :id', {
        id,
        record: JSON.stringify({ ...record, sources: known }),
      });
      for (const [position, { parts, ...artifact }] of artifacts.entries()) {
        await run(
          `INSERT INTO artifacts (deliveryId, position, path, role, bytes, sha256, madeOf, parts)
           VALUES (:id, :position, :path, :role, :bytes, :sha256, :madeOf, :parts)`,
          { ...artifact, id, position, parts: JSON.stringify(parts) },
        );
      }
    }
    await run('ALTER TABLE deliveries DROP COLUMN "order"');
    await run('ALTER TABLE deliveries DROP COLUMN setFindings');
    await run('DROP TABLE delivered_files');
  });
}
