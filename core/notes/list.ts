import { InputError, insteadOf } from '../audio/index.ts';
import type { DeliveryRecord } from '../documents/index.ts';
import { READ_ME, readMe } from './read-me.ts';
import { recordText } from './record-text.ts';
import { slotLinesOf, slotTableCsv } from './slot-table.ts';

/** A text that goes with a delivery: made of its record, whenever it is wanted. */
export interface Note {
  readonly id: string;
  readonly title: string;
  readonly path: string;
  text(record: DeliveryRecord): string;
}

/** Every note. A new one: its file, and its entry here. */
export const notes: readonly Note[] = [
  { id: 'read-me', title: 'READ-ME', path: READ_ME, text: readMe },
  {
    id: 'slots',
    title: 'Slot table',
    path: 'slot-table.csv',
    text: (record) => slotTableCsv(record.sheet, slotLinesOf(record)),
  },
  { id: 'record', title: 'Record', path: 'record.txt', text: recordText },
];

/** @throws InputError with code `bad-setting` where there is no such note */
export function noteById(id: string): Note {
  const note = notes.find((entry) => entry.id === id);
  if (note) return note;
  const known = notes.map((entry) => entry.id);
  throw new InputError('bad-setting', `There is no note "${id}"${insteadOf(id, known)}; choose one of those.`);
}

/** The files of some notes. */
export const noteFiles = (record: DeliveryRecord, ids: readonly string[]) =>
  ids.map(noteById).map(({ path, text }) => ({ path, text: text(record) }));
