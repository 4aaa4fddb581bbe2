export * from './budget.ts';
export * from './even-out.ts';
export * from './listing.ts';
export * from './make.ts';
export * from './name-pattern.ts';
export * from './names.ts';
export * from './plan.ts';
export { type ReadBack, readBack } from './read-back.ts';
