export type { Cause, Suspicion } from './cause.ts';
export { causes } from './causes/list.ts';
export { asIf, asPlayed, type Evidence, gather, LOOKED_AT, playsRight, type Situation } from './evidence.ts';
export * from './explain.ts';
export { mixed, rmsOf, unlikeness } from './measures.ts';
export { mistakeBetween } from './mistakes.ts';
export { LONGEST_SOURCE, ownRate } from './own-rate.ts';
export { type Unproved, unprovedOf } from './unproved.ts';
