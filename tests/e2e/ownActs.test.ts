import { expect, test, type Locator, type Page } from '@playwright/test';
import { address, eventsNamed, idOf, makeEvent, openAs } from './support.ts';

/* What somebody does to their own, on a slow line and on none: all of it, in order, drawn at once. */
const DAY = '2027-03-20';
const LATENCY_MS = 500;

const lane = (page: Page, name: string): Locator =>
  page.locator(`[data-lane][aria-label^="${name}:"]`);

/** Lets every request wait as on a line across an ocean. */
const slow = (page: Page) =>
  page.route('**/api/**', async (route) => {
    // What listens goes on as it does.
    if (!route.request().url().includes('/api/live'))
      await new Promise((resolve) => setTimeout(resolve, LATENCY_MS));
    await route.continue().catch(() => undefined);
  });

async function at(page: Page, name: string, hour: number): Promise<[x: number, y: number]> {
  const box = (await lane(page, name).boundingBox())!;
  return [box.x + ((hour - 7) / 13) * box.width, box.y + box.height / 2];
}

async function drag(page: Page, from: [string, number], to: [string, number]) {
  await page.mouse.move(...(await at(page, ...from)));
  await page.mouse.down();
  await page.mouse.move(...(await at(page, ...to)), { steps: 3 });
  await page.mouse.up();
}

/** Whether a bar was ever drawn elsewhere than where it was put last, while a part runs. */
async function jumps(page: Page, name: string, run: () => Promise<void>): Promise<string[]> {
  await page.evaluate((title) => {
    const seen: string[] = [];
    Object.assign(window, { seenAt: seen });
    const look = () => {
      const bar = [...document.querySelectorAll<HTMLElement>('[data-booking]')].find((one) =>
        one.textContent?.includes(title),
      );
      const lane = bar?.closest<HTMLElement>('[data-lane]');
      const where = bar ? `${lane?.dataset.lane} ${bar.style.left}` : 'nowhere';
      if (seen.at(-1) !== where) seen.push(where);
      requestAnimationFrame(look);
    };
    look();
  }, name);
  await run();
  return page.evaluate(() => (window as unknown as { seenAt: string[] }).seenAt);
}

test('twenty quick drags on a slow line are all saved in order, and nothing jumps back', async ({
  browser,
}) => {
  test.setTimeout(120_000);
  const page = await openAs(browser, 'Oskar Lindqvist');
  const title = 'Quick hands';
  await makeEvent(page, {
    title,
    times: { startsAt: `${DAY}T08:00`, endsAt: `${DAY}T09:00`, zone: 'Europe/Oslo' },
    resources: [await idOf(page, 'Skua')],
  });
  await page.goto(address(`/places/board?date=${DAY}`));
  await expect(lane(page, 'Skua').getByText(title)).toBeVisible();
  await slow(page);
  const places = ['Skua', 'Kittiwake'];
  let [place, hour] = ['Skua', 8.5];
  const seen = await jumps(page, title, async () => {
    for (let k = 0; k < 20; k++) {
      const next: [string, number] = [places[(k + 1) % 2]!, 8.5 + k / 4];
      await drag(page, [place, hour], next);
      await expect(lane(page, next[0]).getByText(title), `drag ${k}`).toBeVisible({
        timeout: LATENCY_MS / 2,
      });
      [place, hour] = next;
    }
    await expect(page.getByText(/is now .*Sat 20 Mar/).first()).toBeVisible({ timeout: 30_000 });
    // All that is under way has come to its end.
    await expect
      .poll(
        async () => {
          const [event] = await eventsNamed(page, title);
          return event && new Date(event.start).toISOString();
        },
        { timeout: 60_000 },
      )
      .toBe(`${DAY}T11:45:00.000Z`);
  });
  // A drag is one move and one place: twenty of them are as many places, and the first.
  const where = seen.filter((one) => one !== 'nowhere');
  expect(where.length).toBeLessThanOrEqual(21);
  await page.unroute('**/api/**');
  await page.reload();
  await expect(lane(page, place).getByText(title)).toBeVisible();
});

test('what is done while the server cannot be reached waits, is said in one place, and is done once it can', async ({
  browser,
}) => {
  const page = await openAs(browser, 'Oskar Lindqvist');
  const title = 'Off the line';
  await makeEvent(page, {
    title,
    times: { startsAt: `${DAY}T16:00`, endsAt: `${DAY}T17:00`, zone: 'Europe/Oslo' },
    resources: [await idOf(page, 'Fulmar')],
  });
  await page.goto(address(`/places/board?date=${DAY}`));
  await expect(lane(page, 'Fulmar').getByText(title)).toBeVisible();
  await page.context().setOffline(true);
  await drag(page, ['Fulmar', 16.5], ['Fulmar', 18.5]);
  await expect(page.getByText('1 change of yours waits')).toBeVisible();
  await expect(lane(page, 'Fulmar')).toHaveAttribute('aria-label', /18:00–19:00/);
  await page.context().setOffline(false);
  await expect(page.getByText(/is now Sat 20 Mar 18:00–19:00/).first()).toBeVisible();
  await expect(page.getByText('The server cannot be reached')).toHaveCount(0);
  const [event] = await eventsNamed(page, title);
  expect(new Date(event!.start).toISOString()).toBe(`${DAY}T17:00:00.000Z`);
});

test('a double click is one, and what moves up below it is not meant', async ({ browser }) => {
  const guest = await openAs(browser, 'Oskar Lindqvist');
  const host = await openAs(browser, 'Fatou Diarra');
  const oskar = await idOf(host, 'Oskar Lindqvist');
  for (const [title, hour] of [
    ['Clumsy first', 10],
    ['Clumsy second', 12],
  ] as const)
    await makeEvent(host, {
      title,
      times: {
        startsAt: `2026-11-25T${hour}:00`,
        endsAt: `2026-11-25T${hour}:30`,
        zone: 'Europe/Oslo',
      },
      attendees: [{ personId: oskar, role: 'required' }],
      send: true,
    });
  await guest.goto(address('/'));
  const accept = (title: string) =>
    guest.getByRole('group', { name: `Answer ${title}` }).getByRole('button', { name: 'Accept' });
  await expect(accept('Clumsy first')).toBeVisible();
  await expect(accept('Clumsy second')).toBeVisible();
  await accept('Clumsy first').dblclick();
  const told = guest.getByText('Fatou Diarra sees your answer: accepted.');
  await expect(told).toHaveCount(1);
  await expect(accept('Clumsy first')).toHaveCount(0);
  await expect(accept('Clumsy second')).toBeVisible();
  // Answered by one click, it is taken back by keys.
  await guest.keyboard.press('Control+z');
  await expect(guest.getByText('Taken back: you have not answered.').first()).toBeVisible();
  await expect(accept('Clumsy first')).toBeVisible();
});
