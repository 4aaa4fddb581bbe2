export * from './budget.ts';
export * from './even-out.ts';
export * from './list-file.ts';
export * from './make.ts';
export * from './names.ts';
