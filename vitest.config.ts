import { defineConfig } from 'vitest/config';

export default defineConfig({
  test: {
    maxWorkers: 2,
    projects: [
      {
        test: {
          name: 'unit',
          include: [
            'demo/**/*.test.ts',
            'src/core/**/*.test.ts',
            'src/web/**/*.test.ts',
            'src/contract/**/*.test.ts',
          ],
          testTimeout: 60_000,
        },
      },
      {
        test: {
          name: 'server',
          include: ['src/server/**/*.test.ts', 'tests/{load,faults,access}/*.test.ts'],
          globalSetup: 'tests/support/globalSetup.ts',
          testTimeout: 60_000,
          hookTimeout: 120_000,
        },
      },
    ],
  },
});
