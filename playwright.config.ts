import { defineConfig } from '@playwright/test';
import { findChromium } from './scripts/lib/programs.mjs';

export default defineConfig({
  testDir: 'tests/e2e',
  globalSetup: './tests/e2e/globalSetup.ts',
  fullyParallel: false,
  workers: 2,
  retries: 0,
  // Bounds for what hangs; how long something takes on a busy machine is no fault of it.
  timeout: 180_000,
  expect: { timeout: Number(process.env.MARMOT_EXPECT_MS ?? 30_000) },
  reporter: [['list']],
  use: {
    viewport: { width: 1280, height: 800 },
    locale: 'en-GB',
    timezoneId: 'Europe/Oslo',
    contextOptions: { reducedMotion: 'reduce' },
    launchOptions: {
      executablePath: findChromium(),
      args: [
        '--no-sandbox',
        '--disable-gpu',
        '--disable-quic',
        '--no-first-run',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync',
      ],
    },
  },
});
