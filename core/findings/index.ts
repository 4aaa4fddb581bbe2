export * from './card.ts';
export * from './check.ts';
