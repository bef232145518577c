import { defineConfig } from 'vitest/config';

// One project a kind of test, so that bin/test can say what ran. No router plug-in: tests meet plain modules.
export default defineConfig({
  test: {
    projects: [
      {
        test: {
          name: 'unit',
          testTimeout: 60_000,
          include: ['{core,work,app,bench,demo,workers,stand-ins}/**/*.test.{ts,tsx}'],
          environment: 'node',
        },
      },
      {
        test: {
          name: 'published',
          include: ['tests/published/**/*.test.ts'],
          environment: 'node',
          testTimeout: 120_000,
        },
      },
      {
        test: {
          name: 'database',
          include: ['tests/database/**/*.test.ts', 'store/**/*.test.ts'],
          environment: 'node',
          testTimeout: 90_000,
          hookTimeout: 60_000,
          fileParallelism: false,
        },
      },
      {
        test: {
          name: 'faults',
          include: ['tests/faults/**/*.test.ts'],
          environment: 'node',
          hookTimeout: 120_000,
          fileParallelism: false,
        },
      },
      {
        test: {
          name: 'attack',
          include: ['tests/attack/**/*.test.ts'],
          environment: 'node',
          testTimeout: 60_000,
          hookTimeout: 180_000,
          fileParallelism: false,
        },
      },
      {
        test: {
          name: 'browser',
          include: ['tests/browser/**/*.test.ts'],
          environment: 'node',
          testTimeout: 240_000,
          hookTimeout: 120_000,
          fileParallelism: false,
        },
      },
    ],
  },
});
