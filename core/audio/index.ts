export { driftIn } from './drift.ts';
export * from './finite.ts';
export * from './levels.ts';
export * from './limits.ts';
export * from './pcm.ts';
export * from './peaks.ts';
export * from './powers.ts';
export * from './sound-finder.ts';
export * from './work.ts';
