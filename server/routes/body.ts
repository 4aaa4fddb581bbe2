import { vValidator } from '@hono/valibot-validator';
import { BUDGETS, excessOf, notFinite } from '@tambur/core';
import type { Context, MiddlewareHandler, TypedResponse } from 'hono';
import { bodyLimit } from 'hono/body-limit';
import * as v from 'valibot';
import { Problem } from '../answers/problem.ts';

function refuse(issue: v.BaseIssue<unknown>, otherwise: string): never {
  const where = issue.path?.map((item) => String(item.key)).join('.') || otherwise;
  throw new Problem(400, 'bad-request', `${where}: ${issue.message}.`);
}

/** A validated JSON body; what does not fit is answered in the shape of every other error. */
export const jsonBody = <S extends v.GenericSchema>(schema: S) =>
  // The first fault is enough.
  vValidator('json', v.config(schema, { abortEarly: true }), (result) => {
    if (!result.success) refuse(result.issues[0], 'body');
    // JSON can hold numbers that are too large for JavaScript, which reads them as infinite.
    const place = notFinite(result.output);
    if (place !== null) throw new Problem(400, 'bad-request', `${place}: it is not a number.`);
  });

/** The validated query of a request, likewise. */
export const query = <S extends v.GenericSchema>(schema: S) =>
  vValidator('query', schema, (result) => {
    if (!result.success) refuse(result.issues[0], 'query');
  });

/** A whole number in a query. */
export const wholeNumber = v.pipe(v.string(), v.regex(/^\d{1,15}$/), v.transform(Number));

/** The bytes of a request as they come, chunk by chunk; none where it has no body. */
export async function* bodyOf(c: Context): AsyncGenerator<Uint8Array> {
  if (c.req.raw.body) yield* c.req.raw.body as unknown as AsyncIterable<Uint8Array>;
}

/** An answer whose text is the JSON of a `T` already. */
export const jsonText = <T>(c: Context, text: string) =>
  c.body(text, 200, { 'Content-Type': 'application/json' }) as Response as Response & TypedResponse<T, 200, 'json'>;

/** What a request states of its size; undefined if it states none. */
export function lengthOf(c: Context): number | undefined {
  const stated = c.req.header('content-length');
  return stated !== undefined && /^\d{1,15}$/.test(stated) ? Number(stated) : undefined;
}

const refuseLarge = () => {
  throw new Problem(413, 'too-large', 'The request is larger than 4 MB; send less at once.');
};

const limitJson = bodyLimit({ maxSize: BUDGETS.request.length, onError: refuseLarge });

/**
 * Holds every body but that of a file within the budget of a request. What goes beyond it is refused before it is parsed: that
 * would keep everybody waiting.
 */
export const limitBodies: MiddlewareHandler = async (c, next) => {
  if (!/json/i.test(c.req.header('content-type') ?? '')) return next();
  return limitJson(c, async () => {
    const excess = excessOf(await c.req.text(), BUDGETS.request);
    if (excess) throw new Problem(413, 'too-large', `body: ${excess.message}; send less at once.`);
    await next();
  });
};
