import { errorFrom, OFFLINE } from './errors.ts';

const answerOf = async (request: Promise<Response>): Promise<Response> => {
  const answer = await request.catch(() => {
    throw OFFLINE;
  });
  if (!answer.ok) throw errorFrom(answer.status, await answer.json().catch(() => null));
  return answer;
};

/** Keeps a list file that a device has; gives its SHA-256, by which jobs know it. */
export async function keepList(bytes: Uint8Array): Promise<string> {
  const headers = { 'content-type': 'application/octet-stream' };
  const answer = await answerOf(fetch('/api/lists', { method: 'POST', headers, body: new Uint8Array(bytes) }));
  return ((await answer.json()) as { readonly sha256: string }).sha256;
}

/** The bytes of one that is kept. */
export const fetchList = async (sha256: string): Promise<Uint8Array> =>
  new Uint8Array(await (await answerOf(fetch(`/api/lists/${sha256}`))).arrayBuffer());
