import { defineConfig } from 'vitest/config';

export default defineConfig({
  test: {
    projects: [
      { test: { name: 'unit', include: ['tests/core/**/*.test.ts', 'tests/server/**/*.test.ts', 'tests/bench/**/*.test.ts', 'tests/standins/**/*.test.ts', 'tests/views/**/*.test.ts'], testTimeout: 60_000 } },
      { test: { name: 'browser', include: ['tests/browser/**/*.test.ts'], testTimeout: 120_000, hookTimeout: 120_000, fileParallelism: false } },
    ],
  },
});
