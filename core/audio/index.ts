export * from './errors.ts';
export * from './figures.ts';
export * from './frames.ts';
export * from './levels.ts';
export * from './limits.ts';
export * from './pcm.ts';
export * from './peaks.ts';
