export * from './binomial.ts';
export * from './clamp.ts';
export * from './decibels.ts';
export * from './frames.ts';
export * from './notes.ts';
export * from './steady.ts';
export * from './timer.ts';
