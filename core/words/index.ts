export * from './errors.ts';
export * from './figures.ts';
export * from './text.ts';
