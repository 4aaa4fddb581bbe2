interface Entry {
  readonly name: string;
  readonly description: string;
  /** True if it decodes files from anywhere: it then runs in a thread of its own, under watch. */
  readonly isWatched: boolean;
}

/** Every command. A new one: its file in `commands/`, under its name, and its entry here. */
export const commands: readonly Entry[] = [
  {
    name: 'targets',
    description: 'list the target sheets',
    isWatched: false,
  },
  {
    name: 'sheet',
    description: 'print a target sheet as a file, to be edited and given to --target',
    isWatched: false,
  },
  {
    name: 'formats',
    description: 'list what is read and written',
    isWatched: false,
  },
  {
    name: 'facts',
    description: 'say what files are, from their bytes',
    isWatched: true,
  },
  {
    name: 'readings',
    description: 'list the readings of headerless files, the most likely first',
    isWatched: true,
  },
  {
    name: 'make',
    description: 'make the files that a target plays; prints the paths that were written',
    isWatched: true,
  },
  {
    name: 'build',
    description: 'make all files of a job, as the page exports it or as JSON beside its sources',
    isWatched: true,
  },
  {
    name: 'settings',
    description: 'list what --set takes, of all stations or of one',
    isWatched: false,
  },
  {
    name: 'check',
    description: 'check files, or a folder or a ZIP that stands for a card, against a target',
    isWatched: true,
  },
  {
    name: 'try',
    description: 'put a card, or a file, into a stand-in of its device: what it shows, refuses and plays',
    isWatched: true,
  },
  {
    name: 'explain',
    description: 'explain what you hear or see at the device, the most likely cause first',
    isWatched: true,
  },
  {
    name: 'listen',
    description: 'say what a device did with a file, from a recording of it',
    isWatched: true,
  },
  {
    name: 'speak',
    description: 'speak prompts in English, each into a WAV file named after its words; prints the paths',
    isWatched: false,
  },
];
