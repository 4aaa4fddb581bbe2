export type { Api } from './app.ts';
export * from './views.ts';
