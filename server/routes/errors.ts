import { InputError, shortened } from '@tambur/core';
import type { ErrorHandler } from 'hono';
import { HTTPException } from 'hono/http-exception';
import type { ContentfulStatusCode } from 'hono/utils/http-status';
import type { Logger } from 'pino';
import { Problem } from '../answers/problem.ts';
import { diskTrouble } from '../storage/disk.ts';

/** Statuses of input errors that are not simply unusable content (422). */
const STATUSES: Partial<Record<InputError['code'], ContentfulStatusCode>> = {
  'too-large': 413,
  'unknown-target': 404,
  'unknown-variant': 400,
  'bad-setting': 400,
  'bad-document': 400,
  'newer-format': 400,
  'cannot-write': 507,
};

/** Answers every error as `{ error: { code, message } }`; what is not the user's to mend goes to the log. */
export const answerErrors = (log: Logger): ErrorHandler => {
  return (error, c) => {
    // Whoever asked has gone, and the work has ended with that: nobody reads the answer.
    if (c.req.raw.signal.aborted) return c.json({ error: { code: 'cancelled', message: 'Cancelled.' } }, 400);
    if (error instanceof InputError) {
      return c.json({ error: { code: error.code, message: shortened(error.message) } }, STATUSES[error.code] ?? 422);
    }
    if (error instanceof Problem) {
      return c.json({ error: { code: error.code, message: shortened(error.message) } }, error.status);
    }
    if (error instanceof HTTPException) {
      return c.json(
        { error: { code: 'bad-request', message: 'Tambur does not know this kind of request.' } },
        error.status,
      );
    }
    const trouble = diskTrouble(error);
    log.error({ err: error, path: c.req.path }, 'a request failed');
    if (trouble !== null) {
      const message = `The data folder cannot be used: ${trouble}.`;
      return c.json({ error: { code: 'cannot-write', message } }, 507);
    }
    const message = 'Something went wrong on the server; its log says what. Try again.';
    return c.json({ error: { code: 'internal', message } }, 500);
  };
};
