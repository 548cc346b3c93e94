/** Chromium signed in to the large organisation as its first person. */
import { chromium, type Browser, type Page } from '@playwright/test';
import { findChromium } from '../scripts/lib/programs.mjs';
import type { BenchServer } from './largeServer.ts';

export async function openBrowser(server: BenchServer): Promise<{ browser: Browser; page: Page }> {
  const browser = await chromium.launch({
    executablePath: findChromium(),
    args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking', '--disable-quic'],
  });
  const context = await browser.newContext({ viewport: { width: 1280, height: 800 } });
  const [name, value] = server.cookie.split('=') as [string, string];
  await context.addCookies([{ name, value, url: server.base }]);
  return { browser, page: await context.newPage() };
}
