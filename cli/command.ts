import type { Command } from 'commander';
import type { Output } from './output.ts';

/** What a command is given beside its own arguments. */
export interface Context {
  readonly output: Output;
  /** True if the user wants to see where an internal error came from. */
  isDebugging(): boolean;
  /** Takes what the command will exit with. */
  exitWith(code: number): void;
}

/** A command of the command line, loaded when it is called. */
export interface CommandModule {
  /** Declares its arguments and options, and what it does. */
  define(command: Command, context: Context): void;
}
