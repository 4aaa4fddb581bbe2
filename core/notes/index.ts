export { soundsOf } from './files.ts';
export * from './list.ts';
export { bearsReadMe, READ_ME } from './read-me.ts';
export { readSlotTable, type SlotLine, slotLinesOf, slotTableCsv } from './slot-table.ts';
