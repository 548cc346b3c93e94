import { randomUUID } from 'node:crypto';
import { expect, test, type Page } from '@playwright/test';
import type { EventDetail } from '../../src/contract/eventDetail.ts';
import { address, openAs } from './support.ts';

/* An answer is for what is shown: which date, that it is one of a series, and what the answer covers. */

/** Runa invites Leila to six Thursdays. */
async function inviteToSeries(organizer: Page, title: string): Promise<EventDetail> {
  const people = await organizer.request.get(address('/api/people?q=Leila'));
  const [leila] = ((await people.json()) as { people: { id: number }[] }).people;
  const answer = await organizer.request.post(address('/api/events'), {
    headers: { Origin: address(), 'Idempotency-Key': randomUUID() },
    data: {
      title,
      times: { startsAt: '2027-04-01T14:00', endsAt: '2027-04-01T15:00', zone: 'Europe/Oslo' },
      repeats: { rule: 'FREQ=WEEKLY;COUNT=6' },
      attendees: [{ personId: leila!.id, role: 'required' }],
    },
  });
  expect(answer.status()).toBe(201);
  return (await answer.json()) as EventDetail;
}

const replyOn = async (page: Page, id: string, date: string) => {
  const answer = await page.request.get(address(`/api/events/${id}?occurrence=${date}T14:00`));
  return ((await answer.json()) as EventDetail).myReply;
};

test('one date of a series is shown and answered by itself, or all of them, as it is chosen', async ({
  browser,
}) => {
  const runa = await openAs(browser, 'Runa Fossheim');
  const leila = await openAs(browser, 'Leila Haddad');
  const event = await inviteToSeries(runa, 'Thursdays');

  await leila.goto(address(`/calendar?date=2027-04-15&event=${event.id}&on=2027-04-15T14:00`));
  const panel = leila.getByRole('dialog', { name: 'Thursdays' });
  // Opened on one date it is answered for that one, unless more is chosen; whether it suits is said as on Today.
  await expect(panel.getByRole('radio', { name: 'all dates of the series' })).not.toBeChecked();
  await expect(panel.getByText(/^fits|of \d+ dates/).first()).toBeVisible();
  await panel.getByRole('link', { name: 'See it beside my day' }).click();

  // The date that was looked at, that it is one of a series, and what the answer is for.
  await expect(leila.getByText(/^Thu 15 Apr /).first()).toBeVisible();
  await expect(leila.getByText(/One date of a series: every Thursday/)).toBeVisible();
  await expect(leila.getByText(/The series fits/)).toBeVisible();
  await expect(leila.getByRole('radio', { name: /^Thu 15 Apr .* alone$/ })).toBeChecked();
  await leila.getByRole('button', { name: 'Decline', exact: true }).click();
  await expect(leila.getByText(/declined, for this date alone/).first()).toBeVisible();
  expect(await replyOn(leila, event.id, '2027-04-15')).toBe('declined');
  expect(await replyOn(leila, event.id, '2027-04-08')).toBe('needs-action');

  await leila.getByRole('radio', { name: 'all dates of the series' }).click();
  await leila.getByRole('button', { name: 'Accept', exact: true }).click();
  await expect(leila.getByText(/accepted, for all dates/).first()).toBeVisible();
  expect(await replyOn(leila, event.id, '2027-04-08')).toBe('accepted');
});

test('the organizer changes, moves and cancels from the invitation', async ({ browser }) => {
  const runa = await openAs(browser, 'Runa Fossheim');
  const event = await inviteToSeries(runa, 'Also Thursdays');
  await runa.goto(address(`/invitations/${event.id}?occurrence=2027-04-22T14:00`));
  const mine = runa.getByRole('group', { name: 'Your meeting' });
  await mine.getByRole('link', { name: 'Another time' }).click();
  await expect(runa).toHaveURL(/\/plan\?/);
  await runa.goBack();
  await mine.getByRole('link', { name: 'Change' }).click();
  await expect(runa.getByLabel('Day', { exact: true })).toHaveValue('Thu 22 Apr 2027');
  await runa.goBack();
  await mine.getByRole('button', { name: 'Cancel it' }).click();
  await runa
    .getByRole('alertdialog')
    .getByRole('button', { name: 'Cancel it without telling anyone' })
    .click();
  await expect(runa.getByText(/“Also Thursdays” is cancelled/).first()).toBeVisible();
});

test('for a required person who declined, somebody of their team who is free then is one click away', async ({
  browser,
}) => {
  const page = await openAs(browser, 'Pedro Quintela');
  const sigridId = await page.evaluate(async () => {
    const answer = await fetch('/api/search?q=Sigrid%20Aune');
    return ((await answer.json()) as { found: { id: number }[] }).found[0]!.id;
  });
  const made = await page.request.post(address('/api/events'), {
    headers: { Origin: address(), 'Idempotency-Key': randomUUID() },
    data: {
      title: 'Anchor check',
      times: { startsAt: '2027-02-09T10:00', endsAt: '2027-02-09T10:30', zone: 'Europe/Oslo' },
      attendees: [{ personId: sigridId, role: 'required' }],
    },
  });
  const { id } = (await made.json()) as { id: string };
  const sigrid = await openAs(browser, 'Sigrid Aune');
  const said = await sigrid.request.post(address(`/api/invitations/${id}/reply`), {
    headers: { Origin: address(), 'Idempotency-Key': randomUUID() },
    data: { reply: 'declined', note: 'At the yard' },
  });
  expect(said.status()).toBe(200);

  await page.goto(address(`/replies?meeting=${id}`));
  const answers = page.getByRole('article', { name: 'Anchor check' });
  const declined = answers.getByRole('region', { name: 'Not coming' });
  await expect(declined).toContainText('Who could stand in? Free then, of Moorings:');
  const offer = declined.getByRole('button', { name: /in place of Sigrid Aune$/ }).first();
  const name = (await offer.textContent())!;
  await offer.click();
  const silent = answers.getByRole('region', { name: 'Silent' });
  await expect(silent).toContainText(name);
  // Whoever is asked is offered no more; taken back, they are as free as before.
  await expect(
    declined.getByRole('button', { name: `Ask ${name} in place of Sigrid Aune` }),
  ).toHaveCount(0);
  await page.locator('body').press('Control+z');
  await expect(silent).not.toContainText(name);
});

test('who has not answered is a list by person, live, and each meeting leads to its answers', async ({
  browser,
}) => {
  const runa = await openAs(browser, 'Runa Fossheim');
  const leila = await openAs(browser, 'Leila Haddad');
  const event = await inviteToSeries(runa, 'Kelp and quiet');

  await runa.goto(address('/replies'));
  await runa.getByRole('radio', { name: 'Who has not answered' }).click();
  const row = runa.getByRole('listitem').filter({ hasText: 'Leila Haddad' }).first();
  await expect(row).toContainText(/owes \d answers?/);
  await row.getByRole('link', { name: 'Kelp and quiet' }).click();
  await expect(runa.getByRole('region', { name: 'The meeting’s answers' })).toContainText(
    'Kelp and quiet',
  );
  await runa.goBack();
  await expect(row.getByRole('link', { name: 'Kelp and quiet' })).toBeVisible();

  const answer = await leila.request.post(address(`/api/invitations/${event.id}/reply`), {
    headers: { Origin: address(), 'Idempotency-Key': randomUUID() },
    data: { reply: 'accepted' },
  });
  expect(answer.ok()).toBe(true);
  await expect(runa.getByRole('link', { name: 'Kelp and quiet' })).toHaveCount(0);
});
