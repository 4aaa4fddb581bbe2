import { defineConfig } from 'vitest/config';

export default defineConfig({
  test: {
    include: ['{core,codecs,server,web,cli}/**/*.test.ts'],
    testTimeout: 60_000,
  },
});
