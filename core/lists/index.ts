export * from './csv.ts';
export * from './list-file.ts';
export * from './own.ts';
export * from './read.ts';
export { textBytes } from './text.ts';
export * from './write.ts';
