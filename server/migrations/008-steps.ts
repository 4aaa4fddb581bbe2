import { DataTypes, type QueryInterface, QueryTypes } from 'sequelize';

interface Entry {
  readonly id: number;
  readonly jobId: string;
  readonly kind: 'change' | 'undo' | 'redo';
}

/** Each change says whether it is a step that can be undone or made again; before, this was read from the order of the log. */
export async function up(db: QueryInterface): Promise<void> {
  await db.addColumn('changes', 'step', { type: DataTypes.STRING, allowNull: true });
  await db.addIndex('changes', ['jobId', 'step', 'revision']);
  const log = await db.sequelize.query<Entry>('SELECT id, jobId, kind FROM changes ORDER BY jobId, revision', {
    type: QueryTypes.SELECT,
  });
  const jobs = new Map<string, { readonly made: number[]; readonly undone: number[] }>();
  for (const { id, jobId, kind } of log) {
    const { made, undone } = jobs.get(jobId) ?? { made: [], undone: [] };
    jobs.set(jobId, { made, undone });
    if (kind === 'change') {
      made.push(id);
      undone.length = 0;
      continue;
    }
    const [from, to] = kind === 'undo' ? [made, undone] : [undone, made];
    // What was moved may have left the log.
    const moved = from.pop();
    if (moved !== undefined) to.push(moved);
  }
  for (const [step, of] of [
    ['made', 'made'],
    ['undone', 'undone'],
  ] as const) {
    for (const ids of [...jobs.values()].map((job) => job[of])) {
      if (ids.length) await db.bulkUpdate('changes', { step }, { id: ids });
    }
  }
}
