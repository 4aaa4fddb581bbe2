import type { DeliveryRecord } from '../documents/index.ts';
import { insteadOf } from '../forms/index.ts';
import { InputError } from '../words/index.ts';
import { notes } from './list.ts';
import type { Note } from './note.ts';

/** @throws InputError with code `bad-setting` if there is no such note */
export function noteById(id: string): Note {
  const note = notes.find((entry) => entry.id === id);
  if (note) return note;
  const known = notes.map((entry) => entry.id);
  throw new InputError('bad-setting', `There is no note "${id}"${insteadOf(id, known)}; choose one of those.`);
}

/**
 * The files of some notes.
 * @throws InputError with code `bad-setting` if one says nothing of such a delivery
 */
export const noteFiles = (record: DeliveryRecord, ids: readonly string[]) =>
  ids.map(noteById).map(({ id, title, path, suits, text }) => {
    if (suits(record)) return { path, text: text(record) };
    throw new InputError(
      'bad-setting',
      `${title}: this set has no arrays in source code of that language; leave ${id} out.`,
    );
  });
