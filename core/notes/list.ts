import { findOutContainer } from '../containers/index.ts';
import type { Delivered, Note } from './note.ts';
import { C_PLAYER, cPlayer } from './players/c.ts';
import { PYTHON_PLAYER, pythonPlayer } from './players/python.ts';
import { RUST_PLAYER, rustPlayer } from './players/rust.ts';
import { READ_ME, readMe } from './read-me.ts';
import { recordText } from './record-text.ts';
import { slotLinesOf, slotTableCsv } from './slot-table.ts';

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
