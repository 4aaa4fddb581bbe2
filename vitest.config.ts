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

export default defineConfig({
  test: {
    include: ['layers.test.ts', '{core,codecs,disk,speech,server,web,cli}/**/*.test.ts'],
    // No test waits for a time: these only end what hangs, on a machine however busy.
    testTimeout: 300_000,
    hookTimeout: 300_000,
    expect: { poll: { timeout: 120_000 } },
    // Every core: left to itself, the runner leaves one idle, which of two is half.
    maxWorkers: '100%',
    sequence: { sequencer: LongFirst },
  },
});
