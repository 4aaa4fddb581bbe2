import { readdirSync, readFileSync } from 'node:fs';
import { defineConfig } from 'vitest/config';
import { BaseSequencer, type TestSpecification } from 'vitest/node';

/** Tests of half a minute and more: begun first, so that none of them is left to run alone at the end. */
const LONG =
  /(core\/listening\/listening|cli\/matrix|codecs\/(robustness|work|standin|every-rate|encoders\/offers))\.test\.ts$/;

class LongFirst extends BaseSequencer {
  override async sort(files: TestSpecification[]): Promise<TestSpecification[]> {
    const sorted = await super.sort(files);
    const isLong = ({ moduleId }: TestSpecification) => LONG.test(moduleId);
    return [...sorted.filter(isLong), ...sorted.filter((file) => !isLong(file))];
  }
}

const ROOMS = ['core', 'codecs', 'disk', 'speech', 'server', 'web', 'cli'];

/** Who takes `vi` puts something else in the place of what other tests use: those have modules of their own. */
const ALONE = ROOMS.flatMap((room) =>
  readdirSync(room, { recursive: true, encoding: 'utf8' }).map((file) => `${room}/${file}`),
)
  .filter((file) => file.endsWith('.test.ts') && !file.includes('node_modules'))
  .filter((file) => /import \{[^}]*\bvi\b[^}]*\} from 'vitest'/.test(readFileSync(file, 'utf8')));

export default defineConfig({
  test: {
    // All others of a worker share their modules: to load core again for each costs more than a quarter of the time.
    projects: [
      {
        extends: true,
        test: {
          name: 'shared',
          include: ['layers.test.ts', `{${ROOMS}}/**/*.test.ts`],
          exclude: ALONE,
          isolate: false,
        },
      },
      { extends: true, test: { name: 'alone', include: ALONE } },
    ],
    // No test waits for a time: these only end what hangs, on a machine however busy.
    testTimeout: 300_000,
    hookTimeout: 300_000,
    expect: { poll: { timeout: 120_000 } },
    // Every core: left to itself, the runner leaves one idle, which of two is half.
    maxWorkers: '100%',
    sequence: { sequencer: LongFirst },
  },
});
