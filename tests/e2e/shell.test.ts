import { expect, test } from '@playwright/test';
import { address, openAs } from './support.ts';

const PHONE = { viewport: { width: 390, height: 844 } };

test('an invitation is answered on Today with one click, and behind the bell', async ({
  browser,
}) => {
  const page = await openAs(browser, 'Runa Fossheim');
  const ines = await openAs(browser, 'Ines Aldabe');
  const waits = page.getByRole('region', { name: 'Waits for your answer' });
  for (const title of ['Rope splicing', 'Buoy painting']) {
    const made = await ines.evaluate(
      async ([name, day]) => {
        const people = (await (await fetch('/api/people?limit=200')).json()) as {
          people: { id: number; name: string }[];
        };
        const runa = people.people.find((one) => one.name === 'Runa Fossheim')!;
        const answer = await fetch('/api/events', {
          method: 'POST',
          headers: { 'Content-Type': 'application/json' },
          body: JSON.stringify({
            title: name,
            times: { startsAt: `${day}T10:00`, endsAt: `${day}T11:00`, zone: 'Europe/Oslo' },
            attendees: [{ personId: runa.id, role: 'required' }],
          }),
        });
        return answer.status;
      },
      [title, title === 'Rope splicing' ? '2027-10-05' : '2027-10-06'],
    );
    expect(made).toBe(201);
    // It comes by itself, while she looks.
    await expect(waits.getByRole('link', { name: title })).toBeVisible();
  }
  const row = waits.getByRole('listitem').filter({ hasText: 'Rope splicing' });
  await expect(row).toContainText('fits');
  await row.getByRole('button', { name: 'Accept' }).click();
  await expect(row).toHaveCount(0);
  // For a moment it is also said to those who do not see it.
  const told = page.getByText('Ines Aldabe sees your answer: accepted.', { exact: true });
  await expect(told).toBeVisible();

  await page.getByRole('button', { name: /^What is new: \d+$/ }).click();
  const news = page.getByRole('dialog', { name: 'What is new' });
  const item = news.getByRole('listitem').filter({ hasText: 'Buoy painting' });
  await item.getByRole('button', { name: 'Decline' }).click();
  await expect(item).toHaveCount(0);

  // The organizer hears of both.
  await ines.getByRole('button', { name: /^What is new/ }).click();
  const heard = ines.getByRole('dialog', { name: 'What is new' });
  const newsOf = (title: string) => heard.getByRole('listitem').filter({ hasText: title }).first();
  await expect(newsOf('Rope splicing')).toContainText('Runa Fossheim comes');
  await expect(newsOf('Buoy painting')).toContainText('Runa Fossheim does not come');
});

test('Enter acts on what stands in the field, however fast it was typed', async ({ browser }) => {
  const page = await openAs(browser, 'Ines Aldabe');
  await page.keyboard.press('/');
  await page.keyboard.type('tide talk with Mika next week 45m');
  await page.keyboard.press('Enter');
  await expect(page).toHaveURL(/minutes=45/);
  await expect(
    page.getByRole('region', { name: 'Line-up' }).getByText('Mika Sandoval'),
  ).toBeVisible();
});

test('Enter takes what is found for what stands in a field, and not for its first letter', async ({
  browser,
}) => {
  const page = await openAs(browser, 'Ines Aldabe');
  await page.route(/\/api\/search\?q=(gannet|mika)$/, async (route) => {
    await new Promise((resolve) => setTimeout(resolve, 700));
    await route.continue();
  });
  await page.keyboard.press('/');
  await page.keyboard.type('g');
  await expect(page.locator('[cmdk-item]', { hasText: 'Grace Paul' })).toBeVisible();
  await page.keyboard.type('annet');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('dialog', { name: 'Gannet' })).toBeVisible();

  await page.goto(address('/plan'));
  const field = page.getByRole('combobox', { name: 'Add a person, team or place' });
  await field.pressSequentially('m');
  await expect(page.locator('[cmdk-item]', { hasText: 'Marcus Yee' })).toBeVisible();
  await page.keyboard.type('ika');
  await page.keyboard.press('Enter');
  const lineUp = page.getByRole('region', { name: 'Line-up' });
  await expect(lineUp.getByText('Mika Sandoval')).toBeVisible();
  await expect(lineUp.getByText('Marcus Yee')).toHaveCount(0);
  await expect(field).toHaveValue('');
});

test('a panel leaves its week visible and alive, and the field within reach', async ({
  browser,
}) => {
  const page = await openAs(browser, 'Ines Aldabe', { path: '/calendar' });
  await page.locator('[data-item]', { hasText: 'Hiring workshop' }).last().click();
  const panel = page.getByRole('dialog', { name: 'Hiring workshop' });
  const grid = (await page.locator('[data-grid]').first().boundingBox())!;
  const beside = (await panel.boundingBox())!;
  expect(grid.x + grid.width).toBeLessThanOrEqual(beside.x + 1);
  // Another event is opened in its place, without closing it first.
  await page.locator('[data-item]', { hasText: 'Code review' }).first().click();
  await expect(page.getByRole('dialog', { name: 'Code review' })).toBeVisible();
  await page.keyboard.press('/');
  await page.keyboard.type('gann');
  await expect(page.locator('[cmdk-item]', { hasText: 'Gannet' })).toBeVisible();
});

test('on a phone the ways lie at the lower edge and the header is one line', async ({
  browser,
}) => {
  const page = await openAs(browser, 'Ines Aldabe', PHONE);
  const header = (await page.getByRole('banner').boundingBox())!;
  expect(header.height).toBeLessThanOrEqual(60);
  const ways = page.getByRole('navigation', { name: 'Views' });
  const below = (await ways.boundingBox())!;
  expect(below.y + below.height).toBe(844);
  for (const target of await ways.getByRole('link').all()) {
    expect((await target.boundingBox())!.height).toBeGreaterThanOrEqual(44);
  }
  const next = (await page.getByRole('heading', { name: /^(Next|On now)/ }).boundingBox())!;
  expect(next.y).toBeLessThan(160);
  await ways.getByRole('link', { name: 'Plan' }).click();
  await expect(page).toHaveURL(/\/plan/);
  await ways.getByRole('button', { name: 'More' }).click();
  await page.getByRole('menuitem', { name: 'People' }).click();
  await expect(page).toHaveURL(/\/people/);
  await page.getByRole('button', { name: 'Find, or say a meeting' }).click();
  await page.keyboard.type('gannet');
  await page.locator('[cmdk-item]', { hasText: 'Gannet' }).click();
  await expect(page.getByRole('dialog', { name: 'Gannet' })).toBeVisible();
});

test('at a computer of another clock it is said whose times are shown, until one says to keep them', async ({
  browser,
}) => {
  const page = await openAs(browser, 'Ines Aldabe', { timezoneId: 'America/Halifax' });
  const said = page.getByRole('complementary', { name: 'Another clock' });
  await expect(said).toContainText('All times are Bergen’s, now 09:12.');
  await expect(said).toContainText('This device’s clock says 04:12.');
  await said.getByRole('button', { name: 'Keep Bergen’s times' }).click();
  await expect(said).toHaveCount(0);
  await page.reload();
  await expect(page.getByRole('heading', { name: /November 2026/ })).toBeVisible();
  await expect(said).toHaveCount(0);
  // In a zone whose clock says the same nothing is to be said.
  const near = await openAs(browser, 'Ines Aldabe', { timezoneId: 'Europe/Berlin' });
  await expect(near.getByRole('complementary', { name: 'Another clock' })).toHaveCount(0);
});
