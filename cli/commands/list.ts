import type { CommandModule } from './command.ts';

interface Entry {
  readonly name: string;
  readonly description: string;
  /** True where it decodes files from anywhere: it then runs in a thread of its own, under watch. */
  readonly isWatched: boolean;
  load(): Promise<CommandModule>;
}

/** Every command. A new one: its file, and its entry here; nothing of it is loaded before it is called. */
export const commands: readonly Entry[] = [
  {
    name: 'targets',
    description: 'list the target sheets',
    isWatched: false,
    load: () => import('./targets.ts'),
  },
  {
    name: 'sheet',
    description: 'print a target sheet as a file, to be edited and given to --target',
    isWatched: false,
    load: () => import('./sheet.ts'),
  },
  {
    name: 'facts',
    description: 'say what files are, from their bytes',
    isWatched: true,
    load: () => import('./facts.ts'),
  },
  {
    name: 'readings',
    description: 'say what headerless files may be, likeliest first',
    isWatched: true,
    load: () => import('./readings.ts'),
  },
  {
    name: 'make',
    description: 'make the files that a target plays; prints the paths that were written',
    isWatched: true,
    load: () => import('./make.ts'),
  },
  {
    name: 'check',
    description: 'check files, or a folder or a ZIP that stands for a card, against a target',
    isWatched: true,
    load: () => import('./check.ts'),
  },
  {
    name: 'speak',
    description: 'speak prompts in English, each into a WAV file named after its words; prints the paths',
    isWatched: false,
    load: () => import('./speak.ts'),
  },
];
