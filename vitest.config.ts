import { defineConfig } from 'vitest/config';

export default defineConfig({
  test: {
    projects: [
      { test: { name: 'unit', include: ['tests/core/**/*.test.ts', 'tests/server/**/*.test.ts', 'tests/bench/**/*.test.ts', 'tests/standins/**/*.test.ts', 'tests/views/**/*.test.ts'], env: { OTTIK_WORK: 'here' }, testTimeout: 60_000 } },
      { test: { name: 'browser', include: ['tests/browser/**/*.test.ts'], env: { OTTIK_WORK: 'here' }, testTimeout: 120_000, hookTimeout: 120_000, fileParallelism: false } },
    ],
  },
});
