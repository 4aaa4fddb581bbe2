export { openSource } from './open-source.ts';
