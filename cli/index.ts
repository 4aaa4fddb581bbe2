export { commands } from './list.ts';
