export * from './alone.ts';
export * from './card.ts';
export * from './device.ts';
export * from './player.ts';
export type { Entry, Implied, Listing, Refusal, Trait } from './trait.ts';
export { cardOfZip, isZip } from './zip.ts';
