import { readFile } from 'node:fs/promises';
import { expect, test } from '@playwright/test';
import { address, choose, idOf, makeEvent, openAs } from './support.ts';

test('bookings are sorted, chosen, put elsewhere together and taken back', async ({ browser }) => {
  const page = await openAs(browser, 'Grace Paul');
  const gannet = await idOf(page, 'Gannet');
  for (const day of ['08', '09']) {
    await makeEvent(page, {
      title: `Sort the nets ${day}`,
      times: {
        startsAt: `2027-06-${day}T15:00`,
        endsAt: `2027-06-${day}T16:00`,
        zone: 'Europe/Oslo',
      },
      resources: [gannet],
    });
  }
  await page.goto(address('/places/ledger'));
  await expect(page.getByRole('button', { name: 'Mine to come' })).toHaveAttribute(
    'aria-pressed',
    'true',
  );
  await page.getByRole('searchbox', { name: 'Place, what for or by whom' }).fill('sort the nets');
  const rows = page.getByRole('list', { name: 'Bookings' }).getByRole('listitem');
  await expect(rows).toHaveCount(2);
  await expect(rows.first()).toContainText('Sort the nets 08');
  await page.getByRole('button', { name: 'When, sorted upwards' }).click();
  await expect(rows.first()).toContainText('Sort the nets 09');

  await page.getByRole('checkbox', { name: 'Choose all that are shown' }).click();
  await page.getByRole('button', { name: 'Another place' }).click();
  const dialog = page.getByRole('alertdialog');
  await expect(dialog).toContainText('Nobody else is told');
  await dialog.getByRole('combobox', { name: 'Which place' }).fill('Skua');
  await dialog.getByRole('option', { name: /Skua/ }).first().click();
  await dialog.getByRole('button', { name: 'Move 2 bookings to Skua' }).click();
  await expect(rows.filter({ hasText: 'Skua' })).toHaveCount(2);
  await page.getByRole('button', { name: 'Undo' }).last().click();
  await expect(rows.filter({ hasText: 'Gannet' })).toHaveCount(2);

  // What one of them is for is said anew where it stands, and taken back.
  await page.getByRole('button', { name: /^Sort the nets 08: change what Gannet/ }).click();
  const field = page.getByRole('textbox', { name: /^What Gannet, Tue 8 Jun/ });
  await field.fill('sort the nets again');
  await field.press('Escape');
  await expect(rows.filter({ hasText: 'Sort the nets 08' })).toHaveCount(1);
  await page.getByRole('button', { name: /^Sort the nets 08: change what Gannet/ }).click();
  await field.fill('Sort the nets again');
  await field.press('Enter');
  await expect(page.getByText('“Sort the nets again” is changed.').first()).toBeVisible();
  await expect(rows.filter({ hasText: 'Sort the nets again' })).toHaveCount(1);
  await page.getByRole('button', { name: 'Undo' }).last().click();
  await expect(rows.filter({ hasText: 'Sort the nets 08' })).toHaveCount(1);

  // One of them is given back; what was chosen says what becomes of it before.
  await page.getByRole('checkbox', { name: 'Choose Gannet, Sort the nets 09' }).click();
  await page.getByRole('button', { name: 'Give back' }).click();
  await dialog.getByRole('button', { name: 'Give 1 booking back' }).click();
  await expect(rows).toHaveCount(1);
});

test('a way to look at the ledger is kept, found again, and written out as it stands', async ({
  browser,
}) => {
  const page = await openAs(browser, 'Ines Aldabe', { path: '/places/ledger' });
  await choose(page.getByRole('combobox', { name: 'Whose' }), 'Everybody’s bookings');
  await choose(page.getByRole('combobox', { name: 'Kind' }), 'labs');
  await choose(page.getByRole('combobox', { name: 'Put together by' }), 'by place');
  const groups = page.getByRole('list', { name: 'Groups' });
  await expect(groups.getByRole('listitem').first()).toContainText(/\d+ bookings?, [\d,]+ h/);
  await page.getByRole('button', { name: 'Keep this view' }).click();
  await page.getByRole('textbox', { name: 'Name of the view' }).fill('Labs by place');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('button', { name: 'Labs by place', exact: true })).toHaveAttribute(
    'aria-pressed',
    'true',
  );
  const first = groups.getByRole('listitem').first();
  const said = Number(/(\d+) bookings?/.exec(await first.innerText())![1]);
  await first.getByRole('button').click();
  await expect(page.getByRole('button', { name: 'All groups' })).toBeVisible();
  await expect(page.getByRole('heading', { level: 1 })).toContainText(`${said} booking`);

  await page.getByRole('button', { name: 'Mine to come' }).click();
  await expect(groups).toBeHidden();
  await page.reload();
  await page.getByRole('button', { name: 'Labs by place', exact: true }).click();
  await expect(groups).toBeVisible();
  const [file] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('link', { name: 'As CSV' }).click(),
  ]);
  const lines = (await readFile((await file.path())!, 'utf8')).trim().split('\r\n');
  expect(lines[0]).toBe('start,end,zone,place,kind,site,floor,title,booked by,state,others');
  expect(lines.length).toBeGreaterThan(said);
  expect(lines.slice(1).every((line) => line.includes(',lab,'))).toBe(true);
});

/** As the server answers where there are some hundred thousand. */
const tooMany = (detail: string) => ({
  status: 422,
  contentType: 'application/problem+json',
  json: {
    type: 'about:blank',
    title: 'Not possible',
    status: 422,
    code: 'too-many-bookings',
    detail,
    fields: [{ field: 'from', message: 'must leave fewer bookings' }],
  },
});

test('a file of too many bookings is refused where it was asked for', async ({ browser }) => {
  const page = await openAs(browser, 'Ines Aldabe');
  await page.route('**/api/ledger/bookings.ics**', (route) =>
    route.fulfill(tooMany('More than 100,000 bookings are not written out at once.')),
  );
  await page.goto(address('/places/ledger?whose=all'));
  await page.getByRole('link', { name: 'As iCalendar' }).click();
  // It is also said, for a moment, to those who do not see it.
  await expect(
    page.getByText('More than 100,000 bookings are not written out at once.', { exact: true }),
  ).toBeVisible();
  await expect(page).toHaveURL(/\/places\/ledger\?whose=all/);
  await expect(page.getByRole('list', { name: 'Bookings' })).toBeVisible();
});

test('among too many bookings words are looked for in fewer days, by one click', async ({
  browser,
}) => {
  const page = await openAs(browser, 'Ines Aldabe');
  await page.route(
    (url) =>
      url.pathname === '/api/ledger' && url.searchParams.has('q') && !url.searchParams.has('from'),
    (route) => route.fulfill(tooMany('More than 200,000 bookings are not searched.')),
  );
  await page.goto(address('/places/ledger?whose=all&when=coming'));
  await page.getByRole('searchbox', { name: 'Place, what for or by whom' }).fill('gannet');
  await expect(page.getByText('More than 200,000 bookings are not searched.')).toBeVisible();
  await page.getByRole('button', { name: 'The next four weeks' }).click();
  const rows = page.getByRole('list', { name: 'Bookings' }).getByRole('listitem');
  await expect(rows.first()).toContainText('Gannet');
  await expect(page.getByRole('searchbox', { name: 'Place, what for or by whom' })).toHaveValue(
    'gannet',
  );
});
