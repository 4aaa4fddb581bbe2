import { fetchAnswer, fetchBytes } from './client.ts';

/** Keeps a list file that a device has; gives its SHA-256, by which jobs know it. */
export async function keepList(bytes: Uint8Array): Promise<string> {
  const headers = { 'content-type': 'application/octet-stream' };
  const answer = await fetchAnswer('/api/lists', { method: 'POST', headers, body: new Uint8Array(bytes) });
  return ((await answer.json()) as { readonly sha256: string }).sha256;
}

/** The bytes of one that is kept. */
export const fetchList = (sha256: string): Promise<Uint8Array> => fetchBytes(`/api/lists/${sha256}`);
