export * from './card.ts';
export * from './check.ts';
export * from './not-known.ts';
