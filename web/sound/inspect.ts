import { type Facts, headerlessReading, InputError, refuseTooLarge, type Target } from '@tambur/core';
import { ApiError, errorFrom, OFFLINE } from '../api/errors.ts';
import { inspectHere, LARGEST_INSPECTED } from './inspect-here.ts';

/** What a file is, or why nobody can tell. */
export type Inspected = { readonly facts: Facts } | { readonly refused: string };

/** Asks the server, which has every decoder and room for large files; it keeps nothing. */
async function askServer(file: File, signal?: AbortSignal): Promise<Facts> {
  // The server refuses it too, but it would hang up in the middle of the file.
  refuseTooLarge(file.name, file.size);
  const answer = await fetch(`/api/check?name=${encodeURIComponent(file.name)}`, {
    method: 'POST',
    headers: { 'content-type': 'application/octet-stream' },
    body: file,
    ...(signal ? { signal } : {}),
  }).catch(() => {
    throw OFFLINE;
  });
  const body = await answer.json().catch(() => null);
  if (!answer.ok) throw errorFrom(answer.status, body);
  return body.facts;
}

/**
 * Looks at a file as a device would: in the page, where it can be read there, otherwise on the server.
 * @param signal ends what is sent to the server
 */
export async function inspect(file: File, target: Target, signal?: AbortSignal): Promise<Inspected> {
  const found = await inspectHere(file, { reading: headerlessReading(target), largest: LARGEST_INSPECTED });
  if (found) return found;
  try {
    return { facts: await askServer(file, signal) };
  } catch (error) {
    if (error instanceof ApiError || error instanceof InputError) return { refused: error.message };
    throw error;
  }
}
