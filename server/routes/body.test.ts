import { Hono } from 'hono';
import { pino } from 'pino';
import * as v from 'valibot';
import { afterEach, expect, test, vi } from 'vitest';
import { jsonBody, limitBodies } from './body.ts';
import { answerErrors } from './errors.ts';

const app = new Hono();
app.onError(answerErrors(pino({ level: 'silent' })));
app.use(limitBodies);
app.post('/', jsonBody(v.object({ a: v.array(v.number()) })), (c) => c.json(c.req.valid('json').a.length));

const post = (body: string) =>
  app.request('/', { method: 'POST', body, headers: { 'content-type': 'application/json' } });

afterEach(() => vi.restoreAllMocks());

test.each([
  ['too many entries', `{"a":[${'1,'.repeat(200_001)}1]}`, /body: it has more than 200.000 entries/],
  ['too deep', `{"a":${'['.repeat(61)}${']'.repeat(61)}}`, /nested more than 60 deep/],
  ['too large', `{"a":"${'x'.repeat(4_000_001)}"}`, /larger than 4 MB/],
])('a body with %s is refused before it is parsed', async (_, body, words) => {
  const parsed = vi.spyOn(JSON, 'parse');
  const answer = await post(body);
  expect(parsed).not.toHaveBeenCalledWith(body);
  expect(answer.status).toBe(413);
  expect((await answer.json()).error.message).toMatch(words);
});

test('signs within texts are no entries, and the first fault is the one that is named', async () => {
  expect(await (await post(`{"a":[1,2],"b":"${',[{'.repeat(100_000)}\\"["}`)).json()).toBe(2);
  const answer = await post(`{"a":["x",${'"y",'.repeat(1000)}1]}`);
  expect((await answer.json()).error.message).toMatch(/^a\.0: /);
});
