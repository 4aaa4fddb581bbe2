import { errorFrom, OFFLINE } from './errors.ts';

const fileHref = (deliveryId: string, path: string) =>
  `/api/deliveries/${deliveryId}/files/${encodeURIComponent(path)}`;
const noteHref = (deliveryId: string, note: string) => `/api/deliveries/${deliveryId}/notes/${note}`;
const zipHref = (deliveryId: string, notes: readonly string[]) =>
  `/api/deliveries/${deliveryId}/zip${notes.length ? `?notes=${notes.join(',')}` : ''}`;

/** Addresses of what a delivery has. */
export const deliveryHrefs = { file: fileHref, note: noteHref, zip: zipHref } as const;

async function answerOf(href: string, signal?: AbortSignal): Promise<Response> {
  const answer = await fetch(href, signal ? { signal } : {}).catch((error: unknown) => {
    throw signal?.aborted ? error : OFFLINE;
  });
  if (!answer.ok) throw errorFrom(answer.status, await answer.json().catch(() => null));
  return answer;
}

/** Some of a delivered file's bytes. */
export const fetchRange = async (href: string, from: number, to: number, signal?: AbortSignal): Promise<Uint8Array> =>
  new Uint8Array(await (await answerOf(`${href}?from=${from}&to=${to}`, signal)).arrayBuffer());

export const fetchBytes = async (href: string, signal?: AbortSignal): Promise<Uint8Array<ArrayBuffer>> =>
  new Uint8Array(await (await answerOf(href, signal)).arrayBuffer());

export const fetchText = async (href: string, signal?: AbortSignal): Promise<string> =>
  (await answerOf(href, signal)).text();
