import { expect, test, type Page } from '@playwright/test';
import { address, choose, openAs } from './support.ts';

const panel = (page: Page) => page.getByRole('dialog');
const item = (page: Page, name: string) => page.locator('[data-item]', { hasText: name });

/** Opens the form for a new event in the week of a date, by the button. */
async function newEvent(page: Page, title: string, day: string, start: string, end: string) {
  await page.getByRole('button', { name: 'New event', exact: true }).click();
  await panel(page).getByLabel('Title').fill(title);
  await panel(page).getByLabel('Day', { exact: true }).fill(day);
  await panel(page).getByLabel('Start', { exact: true }).fill(start);
  await panel(page).getByLabel('End', { exact: true }).fill(end);
}

test('a series is made with a date left out, then one date, what follows and all of it are changed, and taken back', async ({
  browser,
}) => {
  const page = await openAs(browser, 'Clara Weiss', {
    path: '/calendar?view=month&date=2027-09-01',
  });
  await newEvent(page, 'Ice log', '2027-09-07', '9', '9.45');
  await panel(page).getByRole('button', { name: 'Repeat it' }).click();
  await choose(panel(page).getByLabel('Ends'), 'after a number of dates');
  await panel(page).getByLabel('How many times').fill('4');
  await expect(panel(page).getByTestId('sentence')).toHaveText('Every Tuesday, 4 times');
  const dates = panel(page).getByRole('list', { name: 'Next dates' }).getByRole('button');
  await expect(dates).toHaveText(['Tue 7 Sep', 'Tue 14 Sep', 'Tue 21 Sep', 'Tue 28 Sep']);
  await dates.nth(1).click();
  await expect(panel(page).getByTestId('sentence')).toContainText('but not on 1 date');
  await panel(page).getByRole('button', { name: 'Save to my calendar' }).click();
  await expect(item(page, 'Ice log')).toHaveCount(3);

  // One date alone.
  await item(page, 'Ice log').nth(1).click();
  await panel(page).getByRole('button', { name: 'Change' }).click();
  await expect(panel(page).getByLabel('Only Tue 21 Sep')).toBeChecked();
  await panel(page).getByLabel('Title').fill('Ice log, long');
  await panel(page).getByLabel('Start', { exact: true }).fill('1300');
  await panel(page).getByRole('button', { name: 'Save' }).click();
  await expect(item(page, 'Ice log, long')).toHaveAttribute(
    'title',
    'Ice log, long, Tue 21 Sep 13:00–13:45',
  );
  await expect(item(page, 'Ice log')).toHaveCount(3);

  // What follows, by dragging it two days on.
  const last = item(page, 'Ice log').last();
  const box = (await last.boundingBox())!;
  await page.mouse.move(box.x + 40, box.y + 8);
  await page.mouse.down();
  await page.mouse.move(box.x + 40 + box.width * 2 + 12, box.y + 10, { steps: 6 });
  await expect(page.getByText('Thu 30 Sep 09:00–09:45')).toBeVisible();
  await page.mouse.up();
  const where = page.getByRole('alertdialog');
  await expect(where).toContainText('Move “Ice log” to Thu 30 Sep 09:00–09:45?');
  await where.getByLabel('Tue 28 Sep and all after it').check();
  await where.getByRole('button', { name: 'Move it', exact: true }).click();
  await expect(last).toHaveAttribute('title', 'Ice log, Thu 30 Sep 09:00–09:45');
  await page.keyboard.press('Control+z');
  await expect(last).toHaveAttribute('title', 'Ice log, Tue 28 Sep 09:00–09:45');

  // All of it: the date of its own keeps its time.
  await item(page, 'Ice log').first().click();
  await panel(page).getByRole('button', { name: 'Change' }).click();
  await panel(page).getByLabel('The whole series').check();
  await panel(page).getByLabel('Start', { exact: true }).fill('10');
  await panel(page).getByRole('button', { name: 'Save' }).click();
  await expect(item(page, 'Ice log').first()).toHaveAttribute(
    'title',
    'Ice log, Tue 7 Sep 10:00–10:45',
  );
  await expect(item(page, 'Ice log, long')).toHaveAttribute('title', /13:00–13:45/);
  await expect(last).toHaveAttribute('title', 'Ice log, Tue 28 Sep 10:00–10:45');

  // Cancelled from a date on, found again and restored.
  await last.click();
  await panel(page).getByRole('button', { name: 'Cancel it' }).click();
  const ask = page.getByRole('alertdialog');
  await ask.getByLabel('Tue 28 Sep and all after it').check();
  await ask.getByRole('button', { name: 'Cancel it' }).click();
  await expect(item(page, 'Ice log')).toHaveCount(2);
  await page.goto(address('/calendar/cancelled'));
  await page
    .getByRole('listitem')
    .filter({ hasText: 'Ice log' })
    .getByRole('button', { name: 'Restore' })
    .click();
  await expect(page.getByText('“Ice log” is on again.').first()).toBeVisible();
  await page.goto(address('/calendar?view=month&date=2027-09-01'));
  await expect(item(page, 'Ice log')).toHaveCount(3);
});

test('a rule that cannot be is said where it is made', async ({ browser }) => {
  const page = await openAs(browser, 'Clara Weiss', { path: '/calendar?date=2027-09-20' });
  await newEvent(page, 'Never', '2027-09-22', '9', '10');
  await panel(page).getByRole('button', { name: 'Repeat it' }).click();
  await choose(panel(page).getByLabel('Ends'), 'on a day');
  await panel(page).getByLabel('Last date on or before').fill('2027-09-01');
  await expect(panel(page).getByRole('alert')).toContainText('ends before its first date');
  await panel(page).getByRole('button', { name: 'Save to my calendar' }).click();
  await expect(panel(page)).toBeVisible();
});

test('a weekly nine o’clock in Bergen is drawn right for whoever looks, wherever they are', async ({
  browser,
}) => {
  const idris = await openAs(browser, 'Idris Kaya');
  const people = await idris.evaluate(async () => {
    const answer = await fetch('/api/people?limit=200');
    const { people: list } = (await answer.json()) as { people: { id: number; name: string }[] };
    return Object.fromEntries(list.map((one) => [one.name, one.id]));
  });
  const made = await idris.evaluate(
    async (ids) => {
      const answer = await fetch('/api/events', {
        method: 'POST',
        headers: { 'Content-Type': 'application/json' },
        body: JSON.stringify({
          title: 'Nine in Bergen',
          times: { startsAt: '2027-03-09T09:00', endsAt: '2027-03-09T10:00', zone: 'Europe/Oslo' },
          repeats: { rule: 'FREQ=WEEKLY' },
          attendees: ids.map((personId) => ({ personId, role: 'required' })),
        }),
      });
      return answer.status;
    },
    [people['Hal Teague']!, people['Amara Nwosu']!, people['Otieno Were']!],
  );
  expect(made).toBe(201);
  // Weeks before, between and after the clock changes of Halifax, Bergen and Hobart, and in autumn.
  const weeks = [
    '2027-03-09',
    '2027-03-16',
    '2027-03-30',
    '2027-04-06',
    '2027-10-26',
    '2027-11-02',
    '2027-11-09',
  ];
  const expected: [string, string | null, string[]][] = [
    ['Idris Kaya', null, ['09:00', '09:00', '09:00', '09:00', '09:00', '09:00', '09:00']],
    ['Amara Nwosu', null, ['04:00', '05:00', '04:00', '04:00', '04:00', '05:00', '04:00']],
    ['Hal Teague', null, ['19:00', '19:00', '18:00', '17:00', '18:00', '19:00', '19:00']],
    [
      'Otieno Were',
      'Asia/Kolkata',
      ['13:30', '13:30', '12:30', '12:30', '12:30', '13:30', '13:30'],
    ],
  ];
  for (const [name, zone, starts] of expected) {
    const page = name === 'Idris Kaya' ? idris : await openAs(browser, name);
    if (zone) {
      await page.goto(address('/preferences'));
      await choose(page.getByLabel('Home zone'), new RegExp(zone));
      await expect(page.getByText('Saved.')).toBeVisible();
    }
    const seen: string[] = [];
    for (const date of weeks) {
      await page.goto(address(`/calendar?view=week&date=${date}`));
      const title = await item(page, 'Nine in Bergen').getAttribute('title');
      seen.push(/ (\d\d:\d\d)–/.exec(title!)![1]!);
    }
    expect(seen, name).toEqual(starts);
  }
});
