export * from './downmix.ts';
export * from './quantise.ts';
export * from './resample.ts';
