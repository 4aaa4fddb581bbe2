export * from './fit.ts';
export * from './render.ts';
export * from './settings.ts';
export type { Obstacle, RenderReport, SettledStation, Way } from './station.ts';
