import type { ContentfulStatusCode } from 'hono/utils/http-status';

/** A request that cannot be carried out as things stand; `message` is for the user. */
export class Problem extends Error {
  readonly status: ContentfulStatusCode;
  readonly code: string;

  constructor(status: ContentfulStatusCode, code: string, message: string) {
    super(message);
    this.status = status;
    this.code = code;
  }
}

export const notFound = (what: string) =>
  new Problem(404, 'not-found', `There is no such ${what}; it may have been deleted. Go back to the list.`);
