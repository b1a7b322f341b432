import { defineConfig } from 'vitest/config';

export default defineConfig({
  test: {
    // one for each of two processors: what is started for a test runs beside them for a short while only
    maxWorkers: 2,
    projects: [
      {
        test: {
          name: 'unit',
          include: ['tests/core/**/*.test.ts', 'tests/server/**/*.test.ts', 'tests/bench/**/*.test.ts', 'tests/standins/**/*.test.ts', 'tests/views/**/*.test.ts'],
          env: { OTTIK_WORK: 'here', OTTIK_ANSWERS: 'answers@ottik.example' },
          testTimeout: 60_000,
          hookTimeout: 60_000,
          // reading models takes seconds and changes nothing: files share what they have loaded
          isolate: false,
        },
      },
      { test: { name: 'browser', include: ['tests/browser/**/*.test.ts'], env: { OTTIK_WORK: 'here', OTTIK_ANSWERS: 'answers@ottik.example' }, testTimeout: 120_000, hookTimeout: 120_000, fileParallelism: false } },
    ],
  },
});
