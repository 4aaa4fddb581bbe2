import { fetchAnswer, fetchBytes } from './client.ts';

const fileHref = (deliveryId: string, path: string) =>
  `/api/deliveries/${deliveryId}/files/${encodeURIComponent(path)}`;
const noteHref = (deliveryId: string, note: string) => `/api/deliveries/${deliveryId}/notes/${note}`;
const zipHref = (deliveryId: string, notes: readonly string[]) =>
  `/api/deliveries/${deliveryId}/zip${notes.length ? `?notes=${notes.join(',')}` : ''}`;

/** Addresses of what a delivery has. */
export const deliveryHrefs = { file: fileHref, note: noteHref, zip: zipHref } as const;

/** Some of a delivered file's bytes. */
export const fetchRange = (href: string, from: number, to: number, signal?: AbortSignal): Promise<Uint8Array> =>
  fetchBytes(`${href}?from=${from}&to=${to}`, signal);

export const fetchText = async (href: string): Promise<string> => (await fetchAnswer(href)).text();
