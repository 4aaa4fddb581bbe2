export * from './describe.ts';
export * from './facts.ts';
export * from './ids.ts';
export * from './likely-readings.ts';
export * from './meter.ts';
export * from './read.ts';
export * from './remarks.ts';
