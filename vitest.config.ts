import { defineConfig } from 'vitest/config';

/**
 * When a test or its set-up is given up, in milliseconds: only what hangs is meant, for machines are shared and one may be four times as slow
 * as another. How fast something must be is asked of the benchmarks.
 */
const HANGS = 600_000;
const kind = (name: string, include: string[], more: { fileParallelism?: boolean } = {}) => ({
  test: { name, include, environment: 'node' as const, testTimeout: HANGS, hookTimeout: HANGS, ...more },
});

// One project a kind of test, so that bin/test can say what ran. No router plug-in: tests meet plain modules.
export default defineConfig({
  test: {
    projects: [
      kind('unit', ['{core,work,app,bench,bin,demo,workers,stand-ins}/**/*.test.{ts,tsx}']),
      kind('published', ['tests/published/**/*.test.ts']),
      kind('database', ['tests/database/**/*.test.ts', 'store/**/*.test.ts'], { fileParallelism: false }),
      kind('faults', ['tests/faults/**/*.test.ts'], { fileParallelism: false }),
      kind('attack', ['tests/attack/**/*.test.ts'], { fileParallelism: false }),
      kind('browser', ['tests/browser/**/*.test.ts'], { fileParallelism: false }),
    ],
  },
});
