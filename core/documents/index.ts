export * from './another-device.ts';
export * from './changes.ts';
export * from './delivery.ts';
export * from './job.ts';
export * from './manifest.ts';
export * from './read.ts';
export * from './reading.ts';
export { type DocumentKind, upcast } from './upcast.ts';
export { wordsOfChange } from './words.ts';
