import type { Api } from '@tambur/server';
import { hc } from 'hono/client';
import { errorFrom, OFFLINE } from './errors.ts';

/** Typed by the server's own routes. */
export const api = hc<Api>(new URL('/api', location.origin).href);

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

/** Binary numbers of a source; they never change, so the browser may keep them. */
export async function fetchFloats(path: string, signal?: AbortSignal): Promise<Float32Array<ArrayBuffer>> {
  const answer = await fetch(path, signal ? { signal } : {}).catch((error: unknown) => {
    throw signal?.aborted ? error : OFFLINE;
  });
  if (!answer.ok) throw errorFrom(answer.status, await answer.json().catch(() => null));
  return new Float32Array(await answer.arrayBuffer());
}
