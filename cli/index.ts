export * from './commands.ts';
