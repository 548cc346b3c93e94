import { defineConfig } from 'vitest/config';

export default defineConfig({
  test: {
    maxWorkers: 3,
    // Files share what they import: reading all of the server anew for each took longer than many of them.
    isolate: false,
    projects: [
      {
        extends: true,
        test: {
          name: 'unit',
          include: [
            'demo/**/*.test.ts',
            'src/core/**/*.test.ts',
            'src/web/**/*.test.ts',
            'src/contract/**/*.test.ts',
            'tests/patterns/*.test.ts',
          ],
          testTimeout: 60_000,
        },
      },
      {
        extends: true,
        test: {
          name: 'server',
          include: ['src/server/**/*.test.ts', 'tests/{load,faults,access}/*.test.ts'],
          globalSetup: 'tests/support/globalSetup.ts',
          // Servers that tests start by themselves hold no letters back either.
          env: { MARMOT_HOLD_SECONDS: '0' },
          testTimeout: 60_000,
          hookTimeout: 120_000,
        },
      },
    ],
  },
});
