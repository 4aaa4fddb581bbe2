import type { Api } from '@tambur/server';
import { hc } from 'hono/client';

/** Typed by the server's own routes. */
export const api = hc<Api>(new URL('/api', location.origin).href);

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

interface Answer<T> {
  readonly ok: boolean;
  readonly status: number;
  json(): Promise<T>;
}

/** The body of an answer, or an ApiError with the server's own words. */
export async function unwrap<T>(request: Promise<Answer<T>>): Promise<T> {
  const answer = await request.catch(() => {
    throw OFFLINE;
  });
  if (answer.ok) return answer.status === 204 ? (undefined as T) : answer.json();
  throw errorFrom(answer.status, await answer.json().catch(() => null));
}

export function errorFrom(status: number, body: unknown): ApiError {
  const error = (body as { error?: { code?: string; message?: string } } | null)?.error;
  const message =
    error?.message ?? 'The server gave an answer that this page does not understand; load the page again.';
  return new ApiError(error?.code ?? 'unknown', message, status);
}

/** Binary numbers of a source; they never change, so the browser may keep them. */
export async function fetchFloats(path: string, signal?: AbortSignal): Promise<Float32Array<ArrayBuffer>> {
  const answer = await fetch(path, signal ? { signal } : {}).catch((error: unknown) => {
    throw signal?.aborted ? error : OFFLINE;
  });
  if (!answer.ok) throw errorFrom(answer.status, await answer.json().catch(() => null));
  return new Float32Array(await answer.arrayBuffer());
}
