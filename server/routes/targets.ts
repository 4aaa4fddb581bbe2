import { readDocument, sheetText } from '@tambur/core';
import { Hono } from 'hono';
import type { Sequelize } from 'sequelize';
import * as v from 'valibot';
import { notFound, Problem } from '../answers/problem.ts';
import { findSheet, freeSheetId, refuseLostVariants, sheetViews } from '../jobs/sheets.ts';
import { Sheet, writing } from '../models/index.ts';
import { jsonBody } from './body.ts';
import { attachment } from './sources.ts';

/** The sheet itself is read as any document is, of whichever format. */
const bodySchema = v.object({ sheet: v.unknown() });

const sheetIn = ({ sheet }: v.InferOutput<typeof bodySchema>) => readDocument('sheet', sheet, 'The sheet');

async function viewOf(id: string) {
  const view = (await sheetViews()).find((entry) => entry.id === id);
  if (!view) throw notFound('sheet');
  return view;
}

async function findOwn(id: string): Promise<Sheet> {
  const own = await Sheet.findByPk(id);
  if (own) return own;
  // Refused with a reason where it is there but belongs to Tambur.
  const { name } = await viewOf(id);
  throw new Problem(
    409,
    'built-in',
    `${name} ships with Tambur and cannot be changed; duplicate it and change the copy.`,
  );
}

/** The target sheets: those that ship with Tambur are read, the user's own changed. */
export const targetRoutes = (sequelize: Sequelize) =>
  new Hono()
    .get('/', async (c) => c.json(await sheetViews()))
    .get('/:id/file', async (c) => {
      const sheet = await findSheet(c.req.param('id'));
      return c.body(sheetText(sheet), 200, {
        'Content-Type': 'application/json',
        'Content-Disposition': attachment(`${sheet.id}.json`),
      });
    })
    .post('/', jsonBody(bodySchema), async (c) => {
      const sheet = sheetIn(c.req.valid('json'));
      const id = await writing(sequelize, async (transaction) => {
        const free = await freeSheetId(sheet.id, transaction);
        await Sheet.create({ id: free, sheet: { ...sheet, id: free } }, { transaction });
        return free;
      });
      return c.json(await viewOf(id), 201);
    })
    .put('/:id', jsonBody(bodySchema), async (c) => {
      const own = await findOwn(c.req.param('id'));
      const sheet = { ...sheetIn(c.req.valid('json')), id: own.id };
      await writing(sequelize, async (transaction) => {
        await refuseLostVariants(sheet, transaction);
        await own.update({ sheet }, { transaction });
      });
      return c.json(await viewOf(own.id));
    })
    .delete('/:id', async (c) => {
      const own = await findOwn(c.req.param('id'));
      const { usedBy, name } = await viewOf(own.id);
      if (usedBy.length) {
        const jobs = usedBy.map(({ title }) => title).join(', ');
        throw new Problem(409, 'in-use', `${name} is the sheet of ${jobs}; delete the job first, or keep the sheet.`);
      }
      await writing(sequelize, (transaction) => own.destroy({ transaction }));
      return c.body(null, 204);
    });
