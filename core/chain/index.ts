export { centsOf } from './ends-layout.ts';
export * from './fit.ts';
export { limitInEffect } from './length-limits.ts';
export type { Amendment, EncoderOrder, OpenEncoder, SoundEncoder, StereoMode } from './library.ts';
export type { Block } from './passage.ts';
export * from './render.ts';
export * from './settings.ts';
export type { LoopReport, Obstacle, RenderReport, SettledStation, Way } from './station.ts';
export { idealSignalToNoise } from './stations/depth.ts';
