export * from './answers/views.ts';
export type { Api } from './app.ts';
