export * from './changes.ts';
export * from './delivery.ts';
export * from './job.ts';
export * from './read.ts';
export { type DocumentKind, upcast } from './upcast.ts';
