export { commands } from './commands/list.ts';
