export * from './choose.ts';
export { soundsOf } from './files.ts';
export { notes } from './list.ts';
export type { Note } from './note.ts';
export { bearsReadMe, READ_ME } from './read-me.ts';
export { readSlotTable, type SlotLine, slotLinesOf, slotTableCsv } from './slot-table.ts';
