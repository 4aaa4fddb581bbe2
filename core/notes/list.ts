import { findOutContainer } from '../containers/index.ts';
import type { DeliveryRecord } from '../documents/index.ts';
import { insteadOf } from '../forms/index.ts';
import { InputError } from '../words/index.ts';
import { C_PLAYER, cPlayer } from './players/c.ts';
import { PYTHON_PLAYER, pythonPlayer } from './players/python.ts';
import { RUST_PLAYER, rustPlayer } from './players/rust.ts';
import { READ_ME, readMe } from './read-me.ts';
import { recordText } from './record-text.ts';
import { slotLinesOf, slotTableCsv } from './slot-table.ts';

/** The files of a delivery. */
type Delivered = { readonly artifacts: readonly Pick<DeliveryRecord['artifacts'][number], 'parts'>[] };

/** A text that goes with a delivery: made of its record, whenever it is wanted. */
export interface Note {
  readonly id: string;
  readonly title: string;
  readonly path: string;
  /** True where it says something of such a delivery. */
  suits(record: Delivered): boolean;
  text(record: DeliveryRecord): string;
}

const always = () => true;

/** True for deliveries with arrays in source code of a language. */
const withArraysIn =
  (language: string) =>
  ({ artifacts }: Delivered) =>
    artifacts.some(({ parts }) =>
      parts.some(({ facts }) => findOutContainer(facts.array ?? facts.container)?.language === language),
    );

/** Every note. A new one: its file, and its entry here. */
export const notes: readonly Note[] = [
  { id: 'read-me', title: 'READ-ME', path: READ_ME, suits: always, text: readMe },
  {
    id: 'slots',
    title: 'Slot table',
    path: 'slot-table.csv',
    suits: always,
    text: (record) => slotTableCsv(record.sheet, slotLinesOf(record)),
  },
  { id: 'record', title: 'Record of what went in and came out', path: 'record.txt', suits: always, text: recordText },
  { id: 'player-c', title: 'Player in C', path: C_PLAYER, suits: withArraysIn('c'), text: cPlayer },
  { id: 'player-rust', title: 'Player in Rust', path: RUST_PLAYER, suits: withArraysIn('rust'), text: rustPlayer },
  {
    id: 'player-python',
    title: 'Player in Python',
    path: PYTHON_PLAYER,
    suits: withArraysIn('python'),
    text: pythonPlayer,
  },
];

/** @throws InputError with code `bad-setting` where there is no such note */
export function noteById(id: string): Note {
  const note = notes.find((entry) => entry.id === id);
  if (note) return note;
  const known = notes.map((entry) => entry.id);
  throw new InputError('bad-setting', `There is no note "${id}"${insteadOf(id, known)}; choose one of those.`);
}

/**
 * The files of some notes.
 * @throws InputError with code `bad-setting` where one says nothing of such a delivery
 */
export const noteFiles = (record: DeliveryRecord, ids: readonly string[]) =>
  ids.map(noteById).map(({ id, title, path, suits, text }) => {
    if (suits(record)) return { path, text: text(record) };
    throw new InputError(
      'bad-setting',
      `${title}: this set has no arrays in source code of that language; leave ${id} out.`,
    );
  });
