import { type FileHandle, open } from 'node:fs/promises';
import { interleave, type Reading } from '@tambur/core';
import { Hono } from 'hono';
import * as v from 'valibot';
import { Problem } from '../answers/problem.ts';
import type { SourceFiles } from '../storage/data-folder.ts';
import { openSourceSound, type SoundFacts, type StoredKind, storedRange } from '../storage/sound-file.ts';
import { query, wholeNumber } from './body.ts';

/** A sound on the disk, with what is stored beside it. */
export interface StoredSound {
  readonly files: SourceFiles;
  readonly facts: SoundFacts;
  /** What headerless bytes are. */
  readonly reading: Reading | null;
}

/** Most frames that one request for samples gives. */
const MOST_FRAMES = 1 << 20;

async function withFile<T>(path: string, use: (file: FileHandle) => Promise<T>): Promise<T> {
  const file = await open(path, 'r');
  try {
    return await use(file);
  } finally {
    await file.close();
  }
}

/**
 * Numbers that are stored beside a sound; none where they have not been made.
 * @throws Problem if there is no such step
 */
async function readStored(
  { files, facts }: StoredSound,
  kind: StoredKind,
  step: number,
): Promise<Uint8Array<ArrayBuffer>> {
  const range = storedRange(facts, kind, step);
  if (!range) throw new Problem(400, 'bad-request', `step: that step has no ${kind}.`);
  const bytes = new Uint8Array(range.length);
  const { bytesRead } = await withFile(files.peaks, (file) => file.read(bytes, 0, range.length, range.offset));
  return bytesRead === range.length ? bytes : new Uint8Array(0);
}

/** Numbers of a sound never change, so that pages may keep them. */
const forever = { 'Content-Type': 'application/octet-stream', 'Cache-Control': 'private, max-age=31536000, immutable' };

/**
 * A stored sound in ranges: its peaks, its powers, its samples.
 * @param find throws if there is none of that id
 */
export const soundRoutes = (find: (id: string) => StoredSound | Promise<StoredSound>) =>
  new Hono()
    .get('/:id/peaks', query(v.object({ step: wholeNumber })), async (c) =>
      c.body(await readStored(await find(c.req.param('id')), 'peaks', c.req.valid('query').step), 200, forever),
    )
    .get('/:id/powers', query(v.object({ step: wholeNumber })), async (c) => {
      const powers = await readStored(await find(c.req.param('id')), 'powers', c.req.valid('query').step);
      // A source from before they were measured, whose file cannot be read again, has none.
      return c.body(powers, 200, powers.length > 0 ? forever : { 'Cache-Control': 'no-store' });
    })
    .get('/:id/samples', query(v.object({ start: wholeNumber, count: wholeNumber })), async (c) => {
      const { files, facts, reading } = await find(c.req.param('id'));
      const { start, count } = c.req.valid('query');
      if (count > MOST_FRAMES || start + count > facts.frames) {
        throw new Problem(
          400,
          'bad-request',
          `start, count: there are ${facts.frames} frames; ask for a range of them.`,
        );
      }
      const sound = await openSourceSound(files, facts, reading);
      try {
        const samples = new Float32Array(count * facts.channels);
        interleave(await sound.read(start, count), samples);
        return c.body(new Uint8Array(samples.buffer), 200, forever);
      } finally {
        await sound.close();
      }
    });
