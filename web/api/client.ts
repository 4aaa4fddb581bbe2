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

/** What is fetched as it is, or an ApiError with the server's own words. */
export async function fetchAnswer(href: string, init: RequestInit = {}): Promise<Response> {
  const answer = await fetch(href, init).catch((error: unknown) => {
    throw init.signal?.aborted ? error : OFFLINE;
  });
  if (!answer.ok) throw errorFrom(answer.status, await answer.json().catch(() => null));
  return answer;
}

export const fetchBytes = async (href: string, signal?: AbortSignal): Promise<Uint8Array<ArrayBuffer>> =>
  new Uint8Array(await (await fetchAnswer(href, signal ? { signal } : {})).arrayBuffer());

/** Binary numbers of a source; they never change, so the browser may keep them. */
export const fetchFloats = async (href: string, signal?: AbortSignal): Promise<Float32Array<ArrayBuffer>> =>
  new Float32Array((await fetchBytes(href, signal)).buffer);
