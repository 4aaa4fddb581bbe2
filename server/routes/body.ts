import { vValidator } from '@hono/valibot-validator';
import type * as v from 'valibot';
import { Problem } from '../problems.ts';

/** A validated JSON body; what does not fit is answered in the shape of every other error. */
export const jsonBody = <S extends v.GenericSchema>(schema: S) =>
  vValidator('json', schema, (result) => {
    if (result.success) return;
    const issue = result.issues[0];
    const where = issue.path?.map((item) => String(item.key)).join('.') || 'body';
    throw new Problem(400, 'bad-request', `${where}: ${issue.message}.`);
  });
