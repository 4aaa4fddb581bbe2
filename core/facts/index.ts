export * from './facts.ts';
export * from './read.ts';
