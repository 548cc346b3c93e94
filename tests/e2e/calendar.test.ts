import { expect, test } from '@playwright/test';
import { address, makeEvent, openAs } from './support.ts';

test('an event of my own is made by dragging, changed, cancelled and taken back', async ({
  browser,
}) => {
  const page = await openAs(browser, 'Idris Kaya', { path: '/calendar?date=2027-02-10' });
  await expect(page.getByRole('heading', { name: /Mon 8 – Sun 14 Feb 2027/ })).toBeVisible();

  const hours = page.getByLabel('Hours', { exact: true });
  const box = (await hours.boundingBox())!;
  const column = box.x + 56 + ((box.width - 56) / 7) * 5.5;
  await page.mouse.move(column, box.y + 120);
  await page.mouse.down();
  await page.mouse.move(column, box.y + 175, { steps: 5 });
  await page.mouse.up();
  const panel = page.getByRole('dialog');
  await panel.getByLabel('Title').fill('Sew the nets');
  await panel.getByLabel('Start').fill('10.45');
  await panel.getByLabel('End').fill('12');
  await panel.getByRole('button', { name: 'Save to my calendar' }).click();
  const item = page.getByRole('button', { name: /Sew the nets/ });
  await expect(item).toHaveAttribute('title', 'Sew the nets, Sat 13 Feb 10:45–12:00');

  await item.click();
  await expect(page).toHaveURL(/event=/);
  await panel.getByRole('button', { name: 'Change' }).click();
  await panel.getByLabel('Start').fill('1 pm');
  await expect(panel.getByLabel('End')).toHaveValue('14:15');
  await panel.getByRole('button', { name: 'Save' }).click();
  await expect(item).toHaveAttribute('title', 'Sew the nets, Sat 13 Feb 13:00–14:15');

  await item.click();
  await panel.getByRole('button', { name: 'Cancel it' }).click();
  await expect(item).toHaveCount(0);
  await page.getByRole('button', { name: 'Undo' }).last().click();
  await expect(item).toBeVisible();
});

test('what is cancelled right after a change is what it became, however late that is read', async ({
  browser,
}) => {
  const page = await openAs(browser, 'Idris Kaya');
  const id = await makeEvent(page, {
    title: 'Mend the floats',
    times: { startsAt: '2027-02-18T10:00', endsAt: '2027-02-18T11:00', zone: 'Europe/Oslo' },
  });
  await page.goto(address(`/calendar?date=2027-02-18&event=${id}`));
  const panel = page.getByRole('dialog');
  await panel.getByRole('button', { name: 'Change' }).click();
  // From here on the event is read late: a panel opened anew has only what was read before.
  let letRead = () => {};
  const mayRead = new Promise<void>((resolve) => (letRead = resolve));
  await page.route(`**/api/events/${id}`, async (route) => {
    if (route.request().method() === 'GET') await mayRead;
    await route.continue();
  });
  await panel.getByLabel('Start').fill('13:00');
  await panel.getByRole('button', { name: 'Save' }).click();
  const item = page.getByRole('button', { name: /Mend the floats/ });
  await expect(item).toHaveAttribute('title', /13:00–14:00/);
  await item.click();
  await expect(panel.getByRole('heading', { name: 'Mend the floats' })).toBeVisible();
  await expect(panel.getByText('13:00–14:00')).toBeVisible();
  await expect(panel.getByRole('button', { name: 'Cancel it' })).toBeHidden();
  letRead();
  await panel.getByRole('button', { name: 'Cancel it' }).click();
  await expect(item).toHaveCount(0);
});

test('times that are none are named where they were typed, and nothing is lost', async ({
  browser,
}) => {
  const page = await openAs(browser, 'Idris Kaya', { path: '/calendar' });
  await page.getByRole('button', { name: 'New event', exact: true }).click();
  const panel = page.getByRole('dialog');
  await panel.getByLabel('Start').fill('soonish');
  await panel.getByRole('button', { name: 'Save to my calendar' }).click();
  await expect(panel.getByText('type a time such as 10:45, 1045 or 10:45am')).toBeVisible();
  await expect(panel.getByText('must not be empty')).toBeVisible();
  await expect(panel.getByLabel('Start')).toHaveValue('soonish');
});

test('the week shows today, the line of now, and travels by the season strip', async ({
  browser,
}) => {
  const page = await openAs(browser, 'Ines Aldabe', { path: '/calendar' });
  await expect(page.getByRole('heading', { name: 'Tue 24 Nov, today' })).toBeVisible();
  await expect(page.getByTestId('now-line')).toHaveCount(1);
  await page
    .getByRole('navigation', { name: 'Weeks' })
    .getByRole('button', { name: /Mon 7 Dec/ })
    .click();
  await expect(page.getByRole('heading', { name: /Mon 7 – Sun 13 Dec/ })).toBeVisible();
  await page.goBack();
  await expect(page.getByTestId('now-line')).toHaveCount(1);
});

test('a month is printed whole', async ({ browser }) => {
  const page = await openAs(browser, 'Ines Aldabe', { path: '/calendar?view=month' });
  const more = page.getByRole('button', { name: /^\+\d+ more$/ });
  await expect(more.first()).toBeVisible();
  const items = page.locator('[data-item]');
  // The whole of it may come after the week that was read before.
  await expect(async () => {
    const onScreen = await items.count();
    const hidden = (await more.allTextContents()).map((text) => Number(/\d+/.exec(text)![0]));
    await page.emulateMedia({ media: 'print' });
    await expect(more).toHaveCount(0);
    // What lasts several days is hidden on each of them and drawn once.
    const printed = await items.count();
    await page.emulateMedia({ media: 'screen' });
    expect(printed).toBeGreaterThan(onScreen);
    expect(printed).toBeLessThanOrEqual(onScreen + hidden.reduce((sum, one) => sum + one, 0));
  }).toPass({ timeout: 60_000 });
  await expect(more.first()).toBeVisible();
});

test('a week is printed on one sheet, with the hours one wants to see and what lies outside of them', async ({
  browser,
}) => {
  const page = await openAs(browser, 'Ines Aldabe', { path: '/calendar' });
  const items = page.locator('[data-item]');
  await expect(items.first()).toBeVisible();
  const sheets = async () => {
    const file = await page.pdf({ preferCSSPageSize: true, printBackground: true });
    const text = file.toString('latin1');
    const [box] = /\/MediaBox \[0 0 ([\d.]+) ([\d.]+)\]/.exec(text)!.slice(1, 2);
    return { count: text.match(/\/Type \/Page\b/g)!.length, widthPt: Math.round(Number(box)) };
  };
  expect(await sheets()).toEqual({ count: 1, widthPt: 842 });

  await page.emulateMedia({ media: 'print' });
  const hours = page.locator('[data-grid] [data-labels] span');
  await expect(hours.first()).toHaveText('07:00');
  // Nothing of mine is cut off, and the names of the days are above all hours.
  const sheet = (await page.locator('[data-grid] [role=region]').boundingBox())!;
  const head = (await page.locator('[data-head]').boundingBox())!;
  for (const box of await items.evaluateAll((all) =>
    all
      .filter((one) => !one.closest('[data-head], [data-lane]'))
      .map((one) => one.getBoundingClientRect().toJSON() as DOMRect),
  )) {
    expect(box.top).toBeGreaterThanOrEqual(head.y + head.height - 1);
    expect(box.bottom).toBeLessThanOrEqual(sheet.y + sheet.height + 1);
  }
});

test('arrows go from one thing to the next, the panel follows and points at it, below the strip', async ({
  browser,
}) => {
  const page = await openAs(browser, 'Ines Aldabe', { path: '/calendar' });
  const at = (title: string) => page.locator('[data-day] [data-item]', { hasText: title });
  await at('Hiring workshop').last().focus();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('dialog', { name: 'Hiring workshop' })).toBeVisible();
  await at('Hiring workshop').last().focus();
  await page.keyboard.press('ArrowDown');
  const next = page.locator('[data-item]:focus');
  const title = (await next.locator('[data-written]').textContent())!.trim();
  expect(title).not.toBe('Hiring workshop');
  const panel = page.getByRole('dialog', { name: title });
  await expect(panel).toBeVisible();
  await expect(next).toBeFocused();

  const middle = async () => {
    const box = (await next.boundingBox())!;
    const pointer = (await page.locator('[data-points]').boundingBox())!;
    return Math.abs(pointer.y + pointer.height / 2 - (box.y + box.height / 2));
  };
  await expect.poll(middle).toBeLessThan(3);
  // Scrolled out of sight, nothing points beside it.
  await page.getByRole('region', { name: 'Hours' }).evaluate((one) => one.scrollTo(0, 0));
  await expect
    .poll(async () => ((await page.locator('[data-points]').count()) ? middle() : 0))
    .toBeLessThan(3);
  const strip = (await page.getByRole('navigation', { name: 'Weeks' }).boundingBox())!;
  const beside = (await panel.boundingBox())!;
  expect(beside.y).toBeGreaterThanOrEqual(strip.y + strip.height - 1);
  expect(strip.width).toBe(page.viewportSize()!.width);
  await page.keyboard.press('ArrowLeft');
  await expect(panel).toHaveCount(0);
});

test('what waits for an answer is answered where it stands, and taken back', async ({
  browser,
}) => {
  const page = await openAs(browser, 'Ines Aldabe', { path: '/calendar' });
  const block = page
    .locator('[data-day] [data-item]', { hasText: 'Array deployment plan' })
    .first();
  const answers = page.getByRole('group', { name: 'Answer Array deployment plan' });
  await answers.getByRole('button', { name: 'Accept' }).click();
  await expect(
    page.getByText('Mika Sandoval sees your answer: accepted.', { exact: true }),
  ).toBeVisible();
  await expect(answers).toHaveCount(0);
  await expect(block).toContainText('15:00');
  await expect(page.getByRole('dialog')).toHaveCount(0);
  await page.keyboard.press('Control+z');
  await expect(answers).toBeVisible();
});
