import { formatBytes, InputError, nameIn } from '@tambur/core';
import type { DeliveryView, JobView, SourceView } from '@tambur/server';
import { api, fetchBytes, unwrap } from '../api/client.ts';
import { deliveryHrefs } from '../api/delivery-files.ts';
import type { DroppedFiles } from '../check/given.ts';
import type { SentFile } from '../sound/workers/tryout-worker.ts';

/** A card that is to be put into a device. */
export interface CardToTry {
  readonly id: string;
  /** Where it came from. */
  readonly title: string;
  readonly files: readonly SentFile[];
  /** False for files from anywhere, of which nobody knows where they would lie. */
  readonly isWhole: boolean;
  /** The job that it was built for, and the clip of each of its files; null for a card from elsewhere. */
  readonly job: {
    readonly id: string;
    readonly clips: ReadonlyMap<string, string>;
    /** Which file plays at which place. */
    readonly places: ReadonlyMap<number, string>;
  } | null;
}

/** Bytes of a card that a page has room for. */
const LARGEST_CARD = 600_000_000;

/** @throws InputError if a card is too large for the page */
function refuseTooMuch(files: readonly { readonly bytes: number }[]): void {
  const bytes = files.reduce((sum, file) => sum + file.bytes, 0);
  if (bytes <= LARGEST_CARD) return;
  const words = `These files have ${formatBytes(bytes)}, and the page has room for ${formatBytes(LARGEST_CARD)}`;
  throw new InputError('too-large', `${words}; use ./tambur try, or fewer of them.`);
}

/**
 * What a delivery puts on a card, fetched from the server.
 * @param onFile is told after each file how many are there
 * @throws InputError if it is too large for the page
 */
export async function cardOfDelivery(
  { id, jobId, jobTitle, artifacts }: DeliveryView,
  onFile: (count: number) => void,
  signal: AbortSignal,
): Promise<CardToTry> {
  refuseTooMuch(artifacts);
  const files: SentFile[] = [];
  // One after the other, in the order in which they are copied.
  for (const { path } of artifacts) {
    files.push({ path, bytes: await fetchBytes(deliveryHrefs.file(id, path), signal) });
    onFile(files.length);
  }
  const clips = new Map(artifacts.flatMap(({ path, parts }) => (parts[0] ? [[path, parts[0].clip] as const] : [])));
  const places = new Map(artifacts.flatMap(({ path, slots }) => slots.map((place) => [place, path] as const)));
  return { id, title: `Delivery of ${jobTitle}`, files, isWhole: true, job: { id: jobId, clips, places } };
}

/** Names that one still reads. */
const MOST_NAMES = 3;

/** "bell.wav, gong.wav"; of many files the first, and how many more there are. */
const namesOf = (paths: readonly string[]): string =>
  paths.length <= MOST_NAMES ? paths.join(', ') : `${paths[0]} and ${paths.length - 1} more files`;

/** What was dropped. @throws InputError if it is too large for the page */
export async function cardOfGiven({ id, title, files }: DroppedFiles): Promise<CardToTry> {
  refuseTooMuch(files.map(({ file }) => ({ bytes: file.size })));
  const read = files.map(async ({ path, file }) => ({
    path: title === null ? nameIn(path) : path,
    bytes: new Uint8Array(await file.arrayBuffer()),
  }));
  return {
    id,
    title: title ?? namesOf(files.map(({ path }) => path)),
    files: await Promise.all(read),
    isWhole: title !== null,
    job: null,
  };
}

/** Larger sources are not fetched for a question. */
const LARGEST_SOURCE = 60_000_000;

/** The bytes of a source; null if they are too many. */
export const bytesOfSource = async ({ id, facts }: Pick<SourceView, 'id' | 'facts'>): Promise<Uint8Array | null> =>
  facts.bytes <= LARGEST_SOURCE ? fetchBytes(`/api/sources/${id}/file`) : null;

/** The file that a clip was made of; null if it is not there any more, or too large. */
export async function sourceOf(jobId: string, clipId: string | undefined): Promise<Uint8Array | null> {
  const { job, sources } = await unwrap<JobView>(api.jobs[':id'].$get({ param: { id: jobId } }));
  const id = job.clips.find((clip) => clip.id === clipId)?.pieces[0]?.source;
  const source = sources.find((entry) => entry.id === id);
  return source ? bytesOfSource(source) : null;
}
