/** The server refused, or did not answer; `message` is a sentence for the user. */
export class ApiError extends Error {
  readonly code: string;
  readonly status: number;

  constructor(code: string, message: string, status: number) {
    super(message);
    this.code = code;
    this.status = status;
  }
}

export const OFFLINE = new ApiError('offline', 'The Tambur server does not answer; start it again with ./start.', 0);

/** The error in the body of an answer, in the server's own words. */
export function errorFrom(status: number, body: unknown): ApiError {
  const error = (body as { error?: { code?: string; message?: string } } | null)?.error;
  const message = error?.message ?? 'The page does not understand what the server answered; load the page again.';
  return new ApiError(error?.code ?? 'unknown', message, status);
}
