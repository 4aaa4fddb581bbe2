/** The public surface of the core: everything else in here is its own affair. */
export * from './audio/index.ts';
export * from './chain/index.ts';
export type { Container, Extra, Reading, Tag } from './containers/index.ts';
export { cIdentifier, containerOf, containers } from './containers/index.ts';
export * from './delivery/index.ts';
export { resample } from './dsp/index.ts';
export { type Encoding, encodings } from './encodings/index.ts';
export * from './facts/index.ts';
export * from './findings/index.ts';
export * from './targets/index.ts';
