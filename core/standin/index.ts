export * from './alone.ts';
export * from './card.ts';
export {
  type Device,
  forOneFile,
  type Happening,
  type InsertedCard,
  insert,
  listingOf,
  noForeign,
  type OpenForeign,
  type Playing,
  playingOf,
  readHonestly,
  takeFile,
} from './device.ts';
export type { FaceKind, FaceOptions } from './faces/face.ts';
export { faces, USUAL_FACE } from './faces/list.ts';
export * from './player.ts';
export type { Remedy } from './remedy.ts';
export { roundsOf } from './rounds.ts';
export { type Symptom, type SymptomId, symptoms } from './symptoms.ts';
export type { Circumstances, Entry, ImpliedRequirement, Listing, Refusal, Sound, Trait } from './trait.ts';
export { isRefusal, streamOf, takenAs } from './trait.ts';
export { filledBlock } from './traits/block.ts';
export { SHORTEST_HEADER } from './traits/extra-chunks.ts';
export { rateMade, type TimedRate, timerEntries } from './traits/timer.ts';
export { cardOfZip, isZip } from './zip.ts';
