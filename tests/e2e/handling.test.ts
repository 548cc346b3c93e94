import { expect, test, type Locator, type Page } from '@playwright/test';
import { address, openAs } from './support.ts';

const item = (page: Page, name: string) => page.locator('[data-item]', { hasText: name });
const WEEK = '/calendar?view=week&date=2027-08-10';

async function make(page: Page, title: string, startsAt: string, endsAt: string, extra = {}) {
  const status = await page.evaluate(
    async (request) => {
      const answer = await fetch('/api/events', {
        method: 'POST',
        headers: { 'Content-Type': 'application/json' },
        body: JSON.stringify(request),
      });
      return answer.status;
    },
    { title, times: { startsAt, endsAt, zone: 'Europe/Oslo' }, ...extra },
  );
  expect(status).toBe(201);
}

async function drag(
  page: Page,
  what: Locator,
  from: 'middle' | 'bottom',
  by: { x?: number; y?: number },
) {
  const box = (await what.boundingBox())!;
  const [x, y] = [
    box.x + box.width / 2,
    from === 'middle' ? box.y + box.height / 2 : box.y + box.height - 2,
  ];
  await page.mouse.move(x, y);
  await page.mouse.down();
  await page.mouse.move(x + (by.x ?? 0), y + (by.y ?? 0), { steps: 8 });
}

const hourPx = async (page: Page) => {
  const box = (await page.locator('[data-day="0"]').first().boundingBox())!;
  return box.height / 24;
};
const dayPx = async (page: Page) =>
  (await page.locator('[data-day="0"]').first().boundingBox())!.width;

test('an event is moved, stretched and made a whole day by the pointer, its new time said before it is dropped, each taken back', async ({
  browser,
}) => {
  const page = await openAs(browser, 'Sigrid Aune');
  await make(page, 'Winch check', '2027-08-10T10:00', '2027-08-10T11:00');
  await make(page, 'Crane visit', '2027-08-11T12:00', '2027-08-11T13:00');
  await page.goto(address(WEEK));
  const winch = item(page, 'Winch check');
  const hour = await hourPx(page);
  const day = await dayPx(page);

  await drag(page, winch, 'middle', { x: day, y: 2 * hour });
  const said = page.locator('[data-statement]');
  await expect(said).toContainText('Wed 11 Aug 12:00–13:00');
  await expect(said).toContainText('Overlaps Crane visit.');
  await page.mouse.up();
  await expect(winch).toHaveAttribute('title', 'Winch check, Wed 11 Aug 12:00–13:00');
  await page.keyboard.press('Control+z');
  await expect(winch).toHaveAttribute('title', 'Winch check, Tue 10 Aug 10:00–11:00');

  await drag(page, winch, 'bottom', { y: 0.75 * hour });
  await expect(said).toContainText('Tue 10 Aug 10:00–11:45');
  await page.mouse.up();
  await expect(winch).toHaveAttribute('title', 'Winch check, Tue 10 Aug 10:00–11:45');

  const box = (await winch.boundingBox())!;
  const head = (await page.getByRole('group', { name: 'Whole days' }).boundingBox())!;
  await page.mouse.move(box.x + 30, box.y + 20);
  await page.mouse.down();
  await page.mouse.move(box.x + 30, head.y + head.height / 2, { steps: 8 });
  await expect(said).toContainText('Tue 10 Aug, all day');
  await page.mouse.up();
  await expect(winch).toHaveAttribute('title', 'Winch check, all day');
  await page.keyboard.press('Control+z');
  await expect(winch).toHaveAttribute('title', 'Winch check, Tue 10 Aug 10:00–11:45');
  await page.keyboard.press('Control+z');
  await expect(winch).toHaveAttribute('title', 'Winch check, Tue 10 Aug 10:00–11:00');

  // Escape lets go, and nothing has happened.
  await drag(page, winch, 'middle', { x: 2 * day });
  await page.keyboard.press('Escape');
  await page.mouse.up();
  await expect(winch).toHaveAttribute('title', 'Winch check, Tue 10 Aug 10:00–11:00');
});

test('what touches others asks first, names whom, and says who is taken', async ({ browser }) => {
  const page = await openAs(browser, 'Sigrid Aune');
  const henrik = await page.evaluate(async () => {
    const answer = await fetch('/api/people?limit=200');
    const { people } = (await answer.json()) as { people: { id: number; name: string }[] };
    return people.find((one) => one.name === 'Henrik Sæther')!.id;
  });
  await make(page, 'Rope count', '2027-08-12T10:00', '2027-08-12T11:00', {
    attendees: [{ personId: henrik, role: 'required' }],
  });
  const other = await openAs(browser, 'Henrik Sæther');
  await make(other, 'Harbour office', '2027-08-12T12:00', '2027-08-12T13:00');
  await page.goto(address(WEEK));
  const rope = item(page, 'Rope count');
  const hour = await hourPx(page);
  await drag(page, rope, 'middle', { y: 2 * hour });
  const said = page.locator('[data-statement]');
  await expect(async () => {
    await page.mouse.move(
      (await rope.boundingBox())!.x + 40,
      (await rope.boundingBox())!.y + 2.5 * hour + Math.random(),
    );
    await expect(said).toContainText('Henrik Sæther is taken.', { timeout: 500 });
  }).toPass();
  await page.mouse.up();
  const ask = page.getByRole('alertdialog');
  await expect(ask).toContainText('Move “Rope count” to Thu 12 Aug 12:00–13:00?');
  await expect(ask.getByRole('button', { name: 'Move it and tell 1 person' })).toBeVisible();
  await ask.getByRole('button', { name: 'Leave it as it is' }).click();
  await expect(rope).toHaveAttribute('title', 'Rope count, Thu 12 Aug 10:00–11:00');
});

test('keys make, move and stretch events, between days and to whole days', async ({ browser }) => {
  const page = await openAs(browser, 'Nadia Petrov');
  await make(page, 'Buoy paint', '2027-08-10T10:00', '2027-08-10T11:00');
  await page.goto(address(WEEK));
  const buoy = item(page, 'Buoy paint');
  await buoy.focus();
  await page.keyboard.press('Space');
  await expect(page.locator('[data-statement]')).toContainText('Tue 10 Aug 10:00–11:00');
  for (const key of ['ArrowRight', 'ArrowDown', 'ArrowDown', 'Shift+ArrowDown'])
    await page.keyboard.press(key);
  await expect(page.getByRole('status').filter({ hasText: 'Wed 11 Aug 10:30–11:45' })).toHaveCount(
    1,
  );
  await page.keyboard.press('Enter');
  await expect(buoy).toHaveAttribute('title', 'Buoy paint, Wed 11 Aug 10:30–11:45');
  // Until the server has answered, another change would be one of the version before.
  await expect(page.getByText('“Buoy paint” is now Wed 11 Aug 10:30–11:45.').first()).toBeVisible();
  await buoy.focus();
  await page.keyboard.press('Space');
  await page.keyboard.press('a');
  await page.keyboard.press('Enter');
  await expect(buoy).toHaveAttribute('title', 'Buoy paint, all day');

  await page.getByRole('region', { name: 'Hours' }).focus();
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('Shift+ArrowDown');
  await page.keyboard.press('Enter');
  const panel = page.getByRole('dialog');
  await expect(panel.getByLabel('Start', { exact: true })).toHaveValue('09:15');
  await expect(panel.getByLabel('End', { exact: true })).toHaveValue('10:00');
});

test('a finger picks an event up after a moment’s press', async ({ browser }) => {
  const page = await openAs(browser, 'Nadia Petrov', {
    viewport: { width: 390, height: 844 },
    hasTouch: true,
    isMobile: true,
  });
  await make(page, 'Chain order', '2027-08-17T10:00', '2027-08-17T11:00');
  await page.goto(address('/calendar?view=days&days=3&date=2027-08-17'));
  const chain = item(page, 'Chain order');
  const box = (await chain.boundingBox())!;
  const hour = await hourPx(page);
  const touch = await page.context().newCDPSession(page);
  const at = (x: number, y: number) => [{ x, y }];
  const [x, y] = [box.x + 30, box.y + 15];
  await touch.send('Input.dispatchTouchEvent', { type: 'touchStart', touchPoints: at(x, y) });
  await expect(page.locator('[data-statement]')).toBeVisible();
  for (let step = 1; step <= 6; step++) {
    await touch.send('Input.dispatchTouchEvent', {
      type: 'touchMove',
      touchPoints: at(x + (box.width * step) / 6, y + (hour * step) / 6),
    });
  }
  await expect(page.locator('[data-statement]')).toContainText('Wed 18 Aug 11:00–12:00');
  await touch.send('Input.dispatchTouchEvent', { type: 'touchEnd', touchPoints: [] });
  await expect(chain).toHaveAttribute('title', 'Chain order, Wed 18 Aug 11:00–12:00');
});
