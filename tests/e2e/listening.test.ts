import { expect, test, type Page } from '@playwright/test';
import { address, idOf, makeEvent, openAs } from './support.ts';

declare global {
  interface Window {
    /** Says that nobody looks at this window, or that somebody does. */
    look: (hidden: boolean) => void;
  }
}

/** Asks somebody to a meeting of this title. */
async function invite(ines: Page, name: string, title: string): Promise<void> {
  await makeEvent(ines, {
    title,
    times: { startsAt: '2027-10-12T10:00', endsAt: '2027-10-12T11:00', zone: 'Europe/Oslo' },
    attendees: [{ personId: await idOf(ines, name), role: 'required' }],
  });
}

const waiting = (page: Page, title: string) =>
  page.getByRole('region', { name: 'Waits for your answer' }).getByRole('link', { name: title });

test('a window that was refused asks again by itself, and hears what comes', async ({
  browser,
}) => {
  const page = await openAs(browser, 'Grace Paul');
  const ines = await openAs(browser, 'Ines Aldabe');
  let refused = 0;
  await page.route('**/api/live**', (route) =>
    refused++ < 2 ? route.fulfill({ status: 503, body: 'Not now' }) : route.continue(),
  );
  await page.reload();
  await expect(page.getByRole('heading', { name: /November 2026/ })).toBeVisible();
  await expect.poll(() => refused).toBeGreaterThan(2);
  await invite(ines, 'Grace Paul', 'Knot tying');
  await expect(waiting(page, 'Knot tying')).toBeVisible();
});

test('ten windows of one browser all open, and those that nobody looks at catch up when somebody does', async ({
  browser,
}) => {
  const first = await openAs(browser, 'Idris Kaya');
  const ines = await openAs(browser, 'Ines Aldabe');
  const context = first.context();
  await context.addInitScript(
    (state) => {
      Object.defineProperty(document, 'visibilityState', {
        get: () => (state.hidden ? 'hidden' : 'visible'),
      });
      window.look = (hidden) => {
        state.hidden = hidden;
        document.dispatchEvent(new Event('visibilitychange'));
      };
    },
    { hidden: false },
  );
  await first.reload();
  const pages = [first];
  const hide = (page: Page) => page.evaluate(() => window.look(true));
  for (let k = 1; k < 10; k++) {
    await hide(pages.at(-1)!);
    const page = await context.newPage();
    await page.goto(address());
    // A browser has six connections to a server: streams of windows that are hidden leave them free.
    await expect(page.getByRole('heading', { name: /November 2026/ })).toBeVisible();
    pages.push(page);
  }
  const [, second] = pages;
  await invite(ines, 'Idris Kaya', 'Splicing wire');
  await expect(waiting(pages.at(-1)!, 'Splicing wire')).toBeVisible();
  // One of them listens although nobody looks at it, for what is to be heard at any time.
  await expect(waiting(first, 'Splicing wire')).toBeVisible();
  await expect(waiting(second!, 'Splicing wire')).toBeHidden();
  await second!.evaluate(() => window.look(false));
  await expect(waiting(second!, 'Splicing wire')).toBeVisible();
});
