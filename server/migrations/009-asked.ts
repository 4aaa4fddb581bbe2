import { upcast } from '@tambur/core';
import { type QueryInterface, QueryTypes } from 'sequelize';

/** What a sheet asks follows from its player as well: those that are here go on asking what they write. */
export async function up(db: QueryInterface): Promise<void> {
  for (const [table, column, kind] of [
    ['sheets', 'sheet', 'sheet'],
    ['deliveries', 'record', 'delivery'],
  ] as const) {
    const rows = await db.sequelize.query<{ readonly id: string; readonly document: string }>(
      `SELECT id, ${column} AS document FROM ${table}`,
      { type: QueryTypes.SELECT },
    );
    for (const { id, document } of rows) {
      const completed = JSON.stringify(upcast(kind, JSON.parse(document), id));
      if (completed !== document) await db.bulkUpdate(table, { [column]: completed }, { id });
    }
  }
}
