import { movedOn } from '@tambur/core';
import { type QueryInterface, QueryTypes } from 'sequelize';

interface Row {
  readonly id: string;
  readonly targetId: string;
  readonly variantId: string | null;
  readonly more: string;
}

/** A job says for which edition of its sheet it is made: those that are here stay with what they asked. */
export async function up(db: QueryInterface): Promise<void> {
  const rows = await db.sequelize.query<Row>('SELECT id, targetId, variantId, more FROM jobs', {
    type: QueryTypes.SELECT,
  });
  for (const { id, targetId, variantId, more } of rows) {
    const { edition, variant } = movedOn({ sheet: targetId, variant: variantId });
    const said = JSON.stringify({ ...JSON.parse(more), edition });
    await db.bulkUpdate('jobs', { variantId: variant, more: said }, { id });
  }
}
