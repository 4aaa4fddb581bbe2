export * from './manner.ts';
export * from './prompts.ts';
export { speak } from './speak.ts';
