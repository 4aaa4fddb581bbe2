export { type DeliveredSound, soundsOf } from './files.ts';
export * from './list.ts';
export { bearsReadMe, isCompiled, READ_ME } from './read-me.ts';
export { readSlotTable, type SlotEntry, type SlotLine, slotLinesOf, slotTableCsv } from './slot-table.ts';
