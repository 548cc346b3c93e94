import { expect, test, type Page } from '@playwright/test';
import { address, idOf, makeEvent, openAs } from './support.ts';

/** A layout may move by so much in all, as Chromium counts it, once something is painted. */
const MOST_SHIFT = 0.02;

const HOUR = 3_600_000;

/** A booking to check in to, and a time waited for, but for where and when they are. */
const PRESENT = {
  eventId: '0b3c7c7e-6f3f-4a4e-9d5c-0d2f8f6a1b11',
  occurrence: null,
  title: 'Tide tables',
  state: 'held',
  usedAt: null,
  leftAt: null,
  from: 0,
  givenUpAt: 8.64e12,
};
const AWAITED = {
  id: 1,
  title: 'Tide tables',
  wants: 'told',
  offeredUntil: null,
  before: 0,
};

interface Shift {
  value: number;
  what: string[];
}

/** What moved by itself after the first paint, and how much. */
async function shifts(page: Page, path: string, shown: () => Promise<void>): Promise<Shift[]> {
  await page.addInitScript(() => {
    const seen: Shift[] = [];
    (window as unknown as { shifts: Shift[] }).shifts = seen;
    new PerformanceObserver((list) => {
      for (const entry of list.getEntries() as (PerformanceEntry & {
        value: number;
        hadRecentInput: boolean;
        sources: { node: Element | null }[];
      })[]) {
        if (entry.hadRecentInput) continue;
        const what = entry.sources.map(({ node }) => (node?.outerHTML ?? '').slice(0, 90));
        seen.push({ value: entry.value, what });
      }
    }).observe({ type: 'layout-shift', buffered: true });
  });
  await page.goto(address(path));
  await shown();
  await page.waitForLoadState('networkidle').catch(() => undefined);
  return page.evaluate(() => (window as unknown as { shifts: Shift[] }).shifts);
}

for (const [where, options] of [
  ['at a desk', {}],
  ['on a phone', { viewport: { width: 390, height: 844 } }],
] as const) {
  for (const [path, role, name] of [
    ['/', 'region', 'Waits for your answer'],
    ['/calendar', 'region', 'Hours'],
    ['/plan', 'region', 'When they are free'],
    ['/replies', 'list', 'Meetings'],
    ['/places', 'list', 'Places'],
    ['/people', 'list', 'People'],
    ['/places/ledger', 'list', 'Bookings'],
  ] as const) {
    test(`nothing moves by itself in ${path} ${where}`, async ({ browser }) => {
      const page = await openAs(browser, 'Ines Aldabe', options);
      const found = await shifts(page, path, () =>
        expect(page.getByRole(role, { name }).first()).toBeVisible(),
      );
      const sum = found.reduce((total, one) => total + one.value, 0);
      expect(sum, JSON.stringify(found, null, 1)).toBeLessThan(MOST_SHIFT);
    });
  }
}

test('what is read late pushes nothing away on Today', async ({ browser }) => {
  const page = await openAs(browser, 'Ines Aldabe', { viewport: { width: 390, height: 844 } });
  const now = Date.now();
  const place = { placeId: 1, place: 'Gannet', site: 'Larvik', zone: 'Europe/Oslo' };
  const late: [string, object][] = [
    ['/api/bookings/mine', { bookings: [{ ...place, ...PRESENT, start: now, end: now + HOUR }] }],
    ['/api/waiting', { waiting: [{ ...place, ...AWAITED, start: now, end: now + HOUR }] }],
    ['/api/incoming', { mails: [] }],
  ];
  for (const [path, json] of late)
    await page.route(`**${path}`, async (route) => {
      await new Promise((resolve) => setTimeout(resolve, 700));
      await route.fulfill({ json });
    });
  const found = await shifts(page, '/', () =>
    expect(page.getByRole('region', { name: 'Waits for your answer' })).toBeVisible(),
  );
  await expect(page.getByRole('region', { name: 'Places to check in to' })).toBeVisible();
  const sum = found.reduce((total, one) => total + one.value, 0);
  expect(sum, JSON.stringify(found, null, 1)).toBeLessThan(MOST_SHIFT);
});

test('what is read late moves no button of a panel', async ({ browser }) => {
  const page = await openAs(browser, 'Ines Aldabe');
  const id = await makeEvent(page, {
    title: 'Tide tables',
    times: {
      startsAt: '2027-02-17T10:00',
      endsAt: '2027-02-17T11:00',
      zone: 'Europe/Oslo',
      allDay: false,
    },
    resources: [await idOf(page, 'Noddy')],
  });
  let letThrough = () => {};
  const late = new Promise<void>((resolve) => (letThrough = resolve));
  await page.route('**/api/bookings/notes/*', async (route) => {
    await late;
    await route.continue();
  });
  await page.goto(address(`/calendar?date=2027-02-17&event=${id}`));
  const change = page.getByRole('dialog').getByRole('button', { name: 'Change' });
  await expect(change).toBeVisible();
  const before = await change.boundingBox();
  letThrough();
  await expect(page.getByRole('button', { name: /^Tell those who look after/ })).toBeVisible();
  expect(await change.boundingBox()).toEqual(before);
});
