export { type Alternative, alternativesOf, STATIONS_WITH_ALTERNATIVES } from './alternatives.ts';
export * from './chain.ts';
export { centsOf } from './ends-layout.ts';
export * from './file-store.ts';
export { limitInEffect } from './length-limits.ts';
export type { Amendment, EncoderOrder, OpenEncoder, SoundEncoder, StereoMode } from './library.ts';
export { levelsSum } from './makers/index.ts';
export { type Block, Stages } from './passage.ts';
export { pieceOf } from './piece.ts';
export * from './render.ts';
export type { LoopReport, RenderReport } from './report.ts';
export * from './settings.ts';
export * from './settle.ts';
export type { Obstacle, SettledStation, Way } from './station.ts';
export { WEIGHT_RANGE } from './stations/channels.ts';
export { DEPTH_RANGES, idealSignalToNoise } from './stations/depth.ts';
export { ENDS_RANGES, USUAL_ENDS } from './stations/ends.ts';
export { LEVEL_RANGES } from './stations/level.ts';
export { RATE_RANGE } from './stations/rate.ts';
export { possibleBitRates, WRAP_LIMITS } from './stations/wrap.ts';
export {
  evenLimit,
  kindsOfWays,
  lostAtRate,
  type Member,
  type SetCandidate,
  type WayForMany,
  waysForMany,
} from './ways/index.ts';
