import { randomUUID } from 'node:crypto';
import { expect, test, type Page } from '@playwright/test';
import type { CalendarResponse } from '../../src/contract/calendar.ts';
import type { EventDetail } from '../../src/contract/eventDetail.ts';
import { address, addToLineUp, choose, openAs } from './support.ts';

/* A reload and Back at every step of answering, planning and booking: nothing is lost, nothing made twice. */

/** How often something of a title stands in my calendar in a month of 2027. */
async function count(page: Page, title: string, month: number): Promise<number> {
  const [from, to] = [Date.UTC(2027, month - 1, 1), Date.UTC(2027, month, 1)];
  const answer = await page.request.get(address(`/api/calendar?from=${from}&to=${to}`));
  const { items } = (await answer.json()) as CalendarResponse;
  return items.filter((one) => one.title === title).length;
}

test('answering keeps the note and what the answer is for through a reload and Back', async ({
  browser,
}) => {
  const [clara, leila] = [
    await openAs(browser, 'Clara Weiss'),
    await openAs(browser, 'Leila Haddad'),
  ];
  const people = await clara.request.get(address('/api/people?q=Leila'));
  const { people: found } = (await people.json()) as { people: { id: number }[] };
  const made = await clara.request.post(address('/api/events'), {
    headers: { Origin: address(), 'Idempotency-Key': randomUUID() },
    data: {
      title: 'Lichen walk',
      times: { startsAt: '2027-07-06T14:00', endsAt: '2027-07-06T15:00', zone: 'Europe/Oslo' },
      repeats: { rule: 'FREQ=WEEKLY;COUNT=3' },
      attendees: [{ personId: found[0]!.id, role: 'required' }],
    },
  });
  const { id } = (await made.json()) as EventDetail;
  const replyOn = async (date: string) => {
    const answer = await leila.request.get(address(`/api/events/${id}?occurrence=${date}T14:00`));
    return ((await answer.json()) as EventDetail).myReply;
  };
  await leila.goto(address('/calendar?date=2027-07-13'));
  await leila.locator('[data-item]', { hasText: 'Lichen walk' }).first().click();
  await leila.getByRole('dialog').getByRole('link', { name: 'See it beside my day' }).click();

  // The panel asks the same, and stands until the view is there.
  await expect(leila.getByRole('heading', { name: 'Your day around it' })).toBeVisible();

  // One date is looked at, the series is chosen, and a note is typed.
  const all = leila.getByRole('radio', { name: 'all dates of the series' });
  await all.click();
  await expect(all).toBeChecked();
  const note = leila.getByLabel(/A note to Clara/);
  await note.fill('Glad to come');
  await leila.reload();
  await expect(all).toBeChecked();
  await expect(note).toHaveValue('Glad to come');
  // Back leads to the calendar with its panel, and forward to what was typed.
  await leila.goBack();
  await expect(leila.getByRole('dialog', { name: 'Lichen walk' })).toBeVisible();
  await leila.reload();
  await expect(leila.getByRole('dialog', { name: 'Lichen walk' })).toBeVisible();
  await leila.goForward();
  await expect(all).toBeChecked();
  await expect(note).toHaveValue('Glad to come');

  await leila.getByRole('button', { name: 'Accept', exact: true }).click();
  await expect(leila.getByText('Your answer: accepted.', { exact: true })).toBeVisible();
  await leila.reload();
  await expect(leila.getByText('Your answer: accepted.', { exact: true })).toBeVisible();
  await expect(note).toHaveValue('Glad to come');
  expect(await replyOn('2027-07-20')).toBe('accepted');

  // Changed for one date, and looked at again.
  await leila.getByRole('radio', { name: /alone$/ }).click();
  await expect(leila.getByRole('radio', { name: /alone$/ })).toBeChecked();
  await leila.reload();
  await leila.getByRole('button', { name: 'Decline', exact: true }).click();
  await expect(leila.getByText('Your answer: declined.', { exact: true })).toBeVisible();
  await leila.goBack();
  await expect(leila.getByRole('heading', { name: /Jul 2027/ })).toBeVisible();
  expect([await replyOn('2027-07-13'), await replyOn('2027-07-20')]).toEqual([
    'declined',
    'accepted',
  ]);
});

test('planning keeps line-up, wishes, time and texts through a reload and Back, and sends once', async ({
  browser,
}) => {
  const page = await openAs(browser, 'Kwame Boateng');
  await page.getByRole('link', { name: 'Plan', exact: true }).click();
  const lineUp = page.getByRole('region', { name: 'Line-up' });
  await addToLineUp(page, 'sand', 'Mika Sandoval');
  await page.reload();
  await expect(lineUp.getByText('Mika Sandoval')).toBeVisible();

  await page.goto(
    page
      .url()
      .replace(/([?&])from=[^&]*/, '$1')
      .replace('/plan?', '/plan?from=2027-08-09&'),
  );
  await expect(page.getByTestId('ridge-2027-08-10')).toBeVisible();
  const title = page.getByLabel('Title of the meeting');
  await title.fill('Hydrophone swap');
  await page.reload();
  await expect(title).toHaveValue('Hydrophone swap');
  await expect(lineUp.getByText('Mika Sandoval')).toBeVisible();

  const openings = page.getByRole('region', { name: 'Openings' });
  await openings.getByRole('button').first().click();
  const chosen = page.locator('main b').first();
  const said = await chosen.textContent();
  await page.reload();
  await expect(chosen).toHaveText(said!);
  await expect(title).toHaveValue('Hydrophone swap');

  // A look at somebody else's page and Back.
  await page.getByRole('link', { name: 'People', exact: true }).click();
  await expect(page).toHaveURL(/\/people/);
  await page.goBack();
  await expect(chosen).toHaveText(said!);
  await expect(title).toHaveValue('Hydrophone swap');
  await expect(lineUp.getByText('Mika Sandoval')).toBeVisible();

  const send = page.getByRole('button', { name: /^Send to 1 person/ });
  await send.click();
  await expect(page).toHaveURL(/\/replies/);
  await page.reload();
  await expect(page.getByRole('article', { name: 'Hydrophone swap' })).toBeVisible();
  expect(await count(page, 'Hydrophone swap', 8)).toBe(1);
  // Back in Plan the time is taken, by the meeting that was sent.
  await page.goBack();
  await expect(page.getByRole('region', { name: 'Openings' })).toBeVisible();
  expect(await count(page, 'Hydrophone swap', 8)).toBe(1);
});

test('booking keeps what is looked for and typed through a reload and Back, and books once', async ({
  browser,
}) => {
  const page = await openAs(browser, 'Idris Kaya', { path: '/places' });
  const search = page.getByRole('searchbox', { name: 'Name, site or feature' });
  await choose(page.getByLabel('Kind'), 'Everything');
  await search.fill('sonar');
  await page.reload();
  await expect(search).toHaveValue('sonar');
  const row = page.getByRole('button', { name: /^Sonar kit/ });
  await row.click();

  const panel = page.getByRole('dialog', { name: 'Sonar kit' });
  const what = panel.getByRole('textbox', { name: 'What for, if you like' });
  await what.fill('Fjord transect');
  await panel.getByLabel('Day', { exact: true }).fill('9 September 2027');
  await panel.getByLabel('Day', { exact: true }).press('Tab');
  await expect(panel.getByLabel('Day', { exact: true })).toHaveValue('Thu 9 Sep 2027');
  await page.reload();
  await expect(what).toHaveValue('Fjord transect');
  await expect(panel.getByLabel('Day', { exact: true })).toHaveValue('Thu 9 Sep 2027');

  // Back closes the panel and leaves the list as it was looked for.
  await page.goBack();
  await expect(panel).toBeHidden();
  await expect(search).toHaveValue('sonar');
  await row.click();
  await expect(panel.getByText('You go on where you left it.')).toBeVisible();
  await expect(what).toHaveValue('Fjord transect');

  await panel.getByRole('button', { name: /^Book Sonar kit/ }).click();
  await expect(page.getByText(/Sonar kit is yours/).first()).toBeVisible();
  await page.reload();
  await expect(panel).toBeVisible();
  await page.goBack();
  await page.goForward();
  expect(await count(page, 'Fjord transect', 9)).toBe(1);
});
