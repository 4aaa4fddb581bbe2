import { defineConfig } from 'vitest/config';

export default defineConfig({
  test: {
    include: ['{core,codecs,server,web,cli}/**/*.test.ts'],
    testTimeout: 60_000,
    // Every core: left to itself, the runner leaves one idle, which of two is half.
    maxWorkers: '100%',
  },
});
