export * from './disk.ts';
export { Growth } from './growth.ts';
export { synthesiser } from './synthesiser.ts';
