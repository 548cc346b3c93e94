import { expect, test, type Locator, type Page } from '@playwright/test';
import { address, choose, makeEvent, openAs } from './support.ts';

/** One of the calendar's tools, which stands behind “…” where there is no room for it. */
async function tool(page: Page, locator: Locator): Promise<Locator> {
  await page.getByRole('group', { name: 'What is shown' }).waitFor();
  // What there is room for is known once it has been drawn.
  await expect(async () => {
    await page.waitForTimeout(200);
    if (!(await locator.isVisible()))
      await page.getByRole('button', { name: 'More of what is shown' }).click();
    await expect(locator).toBeVisible({ timeout: 500 });
  }).toPass({ timeout: 15_000 });
  return locator;
}

const chipOf = (page: Page, name: string) =>
  page.getByRole('button', { name: new RegExp(`^${name}`) }).and(page.locator('[aria-pressed]'));

async function addLayer(page: Page, part: string, name: string): Promise<void> {
  const add = page.getByRole('button', { name: /see somebody’s time|somebody else’s/ });
  await (await tool(page, add)).click();
  await page.getByPlaceholder('A person, a team or a place').fill(part);
  await page.locator('[cmdk-item]', { hasText: name }).first().click();
  await page.keyboard.press('Escape');
}

test('calendars are laid over mine, beside it and in rows, and are still there after a reload', async ({
  browser,
}) => {
  const page = await openAs(browser, 'Fatou Diarra', { path: '/calendar?view=work' });
  for (const [part, name] of [
    ['tomas', 'Tomas Okafor'],
    ['gannet', 'Gannet'],
    ['oskar', 'Oskar Lindqvist'],
  ] as const) {
    await addLayer(page, part, name);
    await expect(await tool(page, chipOf(page, name))).toBeVisible();
    await page.keyboard.press('Escape');
  }
  const busy = page.getByRole('button', { name: /^Tomas: taken/ });
  await expect(busy.first()).toBeVisible();
  await expect(await tool(page, chipOf(page, 'Oskar Lindqvist'))).toContainText('shares nothing');
  await page.keyboard.press('Escape');

  const arranged = page.getByLabel('How layers stand');
  await choose(await tool(page, arranged), 'one row each');
  await page.keyboard.press('Escape');
  await expect(page.getByRole('region', { name: 'Tomas Okafor' })).toBeVisible();
  await expect(page.getByRole('region', { name: 'Oskar Lindqvist' })).toContainText(
    'no information',
  );
  await page.reload();
  await expect(page.getByRole('region', { name: 'Gannet' })).toBeVisible();

  await (await tool(page, chipOf(page, 'Tomas Okafor'))).click();
  await expect(page.getByRole('region', { name: 'Tomas Okafor' })).toHaveCount(0);
  await choose(await tool(page, arranged), 'beside my days');
  await page.keyboard.press('Escape');
  await expect(page.locator('[data-grid=hours]')).toContainText('Gannet');
  const menu = page.getByRole('button', { name: 'Colour of Gannet, or remove it' });
  await (await tool(page, menu)).click();
  await page.getByRole('menuitem', { name: 'Remove Gannet' }).click();
  await expect(chipOf(page, 'Gannet')).toHaveCount(0);
});

test('all my past and future is searched, and a view is filtered, by an address that can be shared', async ({
  browser,
}) => {
  const page = await openAs(browser, 'Ines Aldabe', { path: '/calendar?view=agenda' });
  await (await tool(page, page.getByRole('button', { name: 'Search', exact: true }))).click();
  await page.keyboard.press('Escape');
  await choose(page.getByLabel('Kind'), 'meetings');
  await expect(page.locator('[data-item]', { hasText: 'Code review' })).toHaveCount(0);
  await page.getByLabel('Words').fill('notices');
  await page.getByLabel('All my past and future').click();
  await expect(page.getByLabel('All my past and future')).toBeChecked();
  const found = page.getByRole('list', { name: 'Found, to come' }).getByRole('button');
  await expect(found).toHaveCount(1);
  await expect(found).toContainText('Skerry House notices');
  await page.reload();
  await expect(found).toHaveCount(1);
  await found.click();
  await expect(page.getByRole('dialog', { name: 'Skerry House notices' })).toContainText(
    'Every Monday',
  );
});

test('a name in People says when they are free next, and leads to Plan, a letter and their calendar', async ({
  browser,
}) => {
  const page = await openAs(browser, 'Sigrid Aune', { path: '/people' });
  await page.getByLabel('Name, team, site or work').fill('sandoval');
  await page.getByRole('button', { name: 'Mika Sandoval' }).click();
  const panel = page.getByRole('dialog', { name: 'Mika Sandoval' });
  await expect(panel.getByText(/ in Halifax; works Mon–Fri .* there/)).toBeVisible();
  await expect(
    panel.getByRole('region', { name: 'When they are free' }).getByRole('listitem'),
  ).toHaveCount(3);
  await expect(panel.getByRole('link', { name: 'Write to them' })).toHaveAttribute(
    'href',
    /^mailto:mika\.sandoval/,
  );
  await page.reload();
  await panel.getByRole('button', { name: 'Lay their calendar over mine' }).click();
  await expect(page).toHaveURL(/\/calendar/);
  await expect(page.getByText('Mika Sandoval').first()).toBeVisible();
});

test('preferences hold at once: clock, first day, hours and a category with its pattern', async ({
  browser,
}) => {
  const page = await openAs(browser, 'Mei Tanaka', { path: '/preferences' });
  await choose(page.getByLabel('Clock'), '12 hours, 2:30 pm');
  await choose(page.getByLabel('The week begins on'), 'Sunday');
  await page.getByLabel('Hours on Friday').fill('8-12, 13-15.30');
  await page.getByLabel('Hours on Friday').press('Enter');
  await expect(page.getByLabel('Hours on Friday')).toHaveValue('08:00–12:00, 13:00–15:30');
  await page.getByLabel('Hours on Monday').fill('late');
  await expect(page.getByText('type hours such as 8:00–12:00')).toBeVisible();
  await page.getByLabel('Name of the new category').fill('Ringing');
  await choose(page.getByLabel('Pattern of the new category'), 'checks');
  await page.getByRole('button', { name: 'Add', exact: true }).last().click();
  await expect(page.getByLabel('Name of Ringing')).toHaveValue('Ringing');

  await page.goto(address('/calendar?view=week'));
  await expect(page.getByRole('heading', { name: /Sun 22 – Sat 28 Nov/ })).toBeVisible();
  await expect(page.locator('[data-grid=hours]')).toContainText('9:00 am');
  await page.getByRole('button', { name: 'New event', exact: true }).click();
  await choose(page.getByRole('dialog').getByLabel('Category'), 'Ringing');
});

test('a file goes with an event, and its details are written with form', async ({ browser }) => {
  const page = await openAs(browser, 'Mei Tanaka', { path: '/events/new' });
  await page.getByLabel('Title').fill('Ringing plan');
  await page.getByRole('textbox', { name: 'Description' }).click();
  await page
    .getByRole('toolbar', { name: 'Formatting of the description' })
    .getByLabel('Bold')
    .click();
  await page.keyboard.type('Bring nets');
  await page.getByLabel('Attachments').setInputFiles({
    name: 'list.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from('bird,ring\ntern,12\n'),
  });
  await page.getByRole('button', { name: 'Save to my calendar' }).click();
  const panel = page.getByRole('dialog', { name: 'Ringing plan' });
  await expect(panel.locator('strong')).toHaveText('Bring nets');
  const download = page.waitForEvent('download');
  await panel.getByRole('link', { name: 'list.csv' }).click();
  expect((await download).suggestedFilename()).toBe('list.csv');
});

test('over somebody’s time a drag begins a meeting with them, its conflict named; a search leaves only what matches', async ({
  browser,
}) => {
  const page = await openAs(browser, 'Kwame Boateng');
  await page.goto(address('/calendar?view=week'));
  await addLayer(page, 'tomas', 'Tomas Okafor');
  const taken = page.getByRole('button', { name: /^Tomas: taken/ }).first();
  const box = (await taken.boundingBox())!;
  await page.mouse.move(box.x + box.width / 2, box.y + 3);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width / 2, box.y + 30, { steps: 5 });
  await expect(page.locator('[data-statement]')).toContainText('Tomas Okafor is taken.');
  await page.mouse.up();
  const panel = page.getByRole('dialog', { name: 'New event' });
  const tomas = panel.getByRole('listitem').filter({ hasText: 'Tomas Okafor' });
  await expect(tomas).toContainText('taken until');
  await expect(panel.getByRole('button', { name: 'Send to 1 person' })).toBeVisible();
  await panel.getByRole('button', { name: 'Close' }).click();

  // What is not shared cannot be judged and is faint; without words, it is as it was.
  await (await tool(page, page.getByRole('button', { name: 'Search', exact: true }))).click();
  await page.keyboard.press('Escape');
  await page.getByLabel('Words').fill('zzz');
  await expect(taken).toHaveClass(/opacity-35/);
  await choose(page.getByLabel('My reply'), 'accepted');
  await expect(page.locator('[data-item]')).toHaveCount(0);
});

test('what leaves its owner free is a bracket at the day’s side, beside which everything keeps its width', async ({
  browser,
}) => {
  const page = await openAs(browser, 'Kwame Boateng');
  const make = (title: string, showsAs: string) =>
    page.evaluate(
      async ([name, how]) => {
        const times = { zone: 'America/Halifax' };
        await fetch('/api/events', {
          method: 'POST',
          headers: { 'Content-Type': 'application/json' },
          body: JSON.stringify({
            title: name,
            showsAs: how,
            times: { ...times, startsAt: '2027-08-11T10:00', endsAt: '2027-08-11T12:00' },
          }),
        });
      },
      [title, showsAs],
    );
  await make('At the tide desk', 'free');
  await make('Core sorting', 'busy');
  await page.goto(address('/calendar?view=week&date=2027-08-10'));
  const item = (name: string) => page.locator('[data-item]', { hasText: name });
  const [band, taken] = [
    (await item('At the tide desk').boundingBox())!,
    (await item('Core sorting').boundingBox())!,
  ];
  const day = (await page.locator('[data-day="2"]').boundingBox())!;
  expect(band.x).toBeLessThan(day.x + 6);
  // But for the bracket and a lane.
  expect(taken.width).toBeGreaterThan(day.width - 40);
  expect(taken.x).toBeGreaterThan(band.x + 6);
  await item('At the tide desk').click({ position: { x: 3, y: 30 } });
  await expect(page.getByRole('dialog')).toContainText('My time: still free');
});

test('a calendar that is switched off stays so, however late what was read before comes', async ({
  browser,
}) => {
  const page = await openAs(browser, 'Emil Rask', { path: '/calendar?view=work' });
  await addLayer(page, 'gannet', 'Gannet');
  const chip = chipOf(page, 'Gannet');
  await expect(chip).toHaveAttribute('aria-pressed', 'true');
  // What is read from here on is of before the change, and comes after it.
  let letCome = () => {};
  const mayCome = new Promise<void>((resolve) => (letCome = resolve));
  const asked = new Promise<void>((resolve) => {
    void page.route('**/api/calendar/layers', async (route) => {
      if (route.request().method() !== 'GET') return route.continue();
      const answer = await route.fetch();
      resolve();
      await mayCome;
      await route.fulfill({ response: answer }).catch(() => undefined);
    });
  });
  // Whatever happens in the calendar has it read again.
  await makeEvent(page, {
    title: 'Wash the buoys',
    times: { startsAt: '2026-11-25T15:00', endsAt: '2026-11-25T15:30', zone: 'Europe/Oslo' },
  });
  await asked;
  const kept = page.waitForResponse((one) => one.request().method() === 'PATCH');
  await chip.click();
  await kept;
  await expect(chip).toHaveAttribute('aria-pressed', 'false');
  letCome();
  // Long enough for what was held back to be drawn.
  await page.evaluate(() => new Promise((resolve) => setTimeout(resolve, 300)));
  await expect(chip).toHaveAttribute('aria-pressed', 'false');
});
