export * from './csv.ts';
export * from './list-file.ts';
export * from './read.ts';
export * from './write.ts';
