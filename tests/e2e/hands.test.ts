import { randomUUID } from 'node:crypto';
import { expect, test, type Page } from '@playwright/test';
import type { EventDetail } from '../../src/contract/eventDetail.ts';
import {
  address,
  eventsNamed,
  idOf,
  makeEvent as makeAny,
  openAs,
  placeInWords,
} from './support.ts';

/*
 * Impatient hands: fast and slow typing, double clicks, a slow network, two windows, leaving by every
 * way there is. Each person here has a week of their own.
 */

const panelOf = (page: Page) => page.getByRole('dialog', { name: 'New event' });

/** Begins a new event in a week, with a title. */
async function begin(page: Page, week: string, title: string) {
  await page.goto(address(`/calendar?date=${week}`));
  await page.getByRole('button', { name: 'New event', exact: true }).click();
  await panelOf(page).getByLabel('Title').fill(title);
  return panelOf(page);
}

async function makeEvent(page: Page, title: string, date: string): Promise<EventDetail> {
  const answer = await page.request.post(address('/api/events'), {
    headers: { Origin: address(), 'Idempotency-Key': randomUUID() },
    data: {
      title,
      times: { startsAt: `${date}T10:00`, endsAt: `${date}T11:00`, zone: 'Europe/Oslo' },
    },
  });
  expect(answer.status()).toBe(201);
  return (await answer.json()) as EventDetail;
}

test('a start typed at any speed keeps the length, and an end on another day is said', async ({
  browser,
}) => {
  const page = await openAs(browser, 'Ines Aldabe');
  const panel = await begin(page, '2027-05-10', 'Typed');
  const start = panel.getByLabel('Start', { exact: true });
  const end = panel.getByLabel('End', { exact: true });
  await panel.getByLabel('Day', { exact: true }).fill('2027-05-11');
  await start.fill('10');
  await end.fill('11');
  for (const [delay, typed, shown, until] of [
    [0, '10.45', '10:45', '11:45'],
    [40, '11:30 pm', '23:30', '00:30'],
    [120, '0915', '09:15', '10:15'],
    [0, '13', '13:00', '14:00'],
  ] as const) {
    await start.click();
    await start.press('ControlOrMeta+a');
    await page.keyboard.type(typed, { delay });
    await start.press('Tab');
    await expect(start).toHaveValue(shown);
    await expect(end).toHaveValue(until);
    const night = panel.getByText('Ends on Wed 12 May, the next day, 1 h after it begins.');
    if (shown === '23:30') await expect(night).toBeVisible();
    else await expect(night).toBeHidden();
  }
  // The day, and the start at once behind it.
  await panel.getByLabel('Day', { exact: true }).click();
  await page.keyboard.type('12 May 2027');
  await page.keyboard.press('Tab');
  await page.keyboard.press('Tab');
  await expect(start).toBeFocused();
  await page.keyboard.type('9.30');
  await page.keyboard.press('Tab');
  await expect(panel.getByLabel('Day', { exact: true })).toHaveValue('Wed 12 May 2027');
  await expect(start).toHaveValue('09:30');
  await expect(end).toHaveValue('10:30');

  // An end before the start is refused in words, and nothing is made of it.
  await end.fill('8');
  await end.press('Enter');
  await expect(panel.getByText('is not after the start')).toBeVisible();
  expect(await eventsNamed(page, 'Typed')).toHaveLength(0);
  await end.fill('11');
  await panel.getByRole('button', { name: 'Save to my calendar' }).click();
  await expect(panel).toBeHidden();
  const [made] = await eventsNamed(page, 'Typed');
  expect(made!.end - made!.start).toBe(90 * 60_000);
});

test('a day that is typed and saved at once is the day that was meant, or none', async ({
  browser,
}) => {
  const page = await openAs(browser, 'Ines Aldabe');
  // What reads days comes late.
  await page.route(/assets\/.*\.js/, async (route) => {
    await new Promise((resolve) => setTimeout(resolve, 1500));
    await route.continue();
  });
  await page.goto(address('/events/new'));
  await page.getByLabel('Title').fill('Typed and saved');
  const day = page.getByRole('textbox', { name: 'Day', exact: true });
  await day.fill('22 June 2027');
  await page.getByRole('button', { name: 'Save to my calendar' }).click();
  await expect(page).toHaveURL(/date=2027-06-22/);
  await page.goto(address('/events/new'));
  await page.getByLabel('Title').fill('Typed and not read');
  await day.fill('the day of the walrus');
  await day.press('Control+Enter');
  await expect(day).toBeFocused();
  await expect(page.getByText('is no day; type one such as 26 Nov or next Friday')).toBeVisible();
  await expect(page).toHaveURL(/events\/new/);
});

test('numbers are judged where they are typed, and take nothing away', async ({ browser }) => {
  const page = await openAs(browser, 'Ines Aldabe');
  const panel = await begin(page, '2027-05-17', 'Numbers');
  await panel.getByRole('button', { name: 'Repeat it' }).click();
  const every = panel.getByRole('spinbutton', { name: 'Interval' });
  await every.fill('');
  await every.pressSequentially('2');
  await expect(every).toHaveValue('2');
  await expect(panel.getByTestId('sentence')).toContainText('2 weeks');
  await every.fill('1.5');
  await expect(panel.getByText('a whole number from 1 to 999; 2 counts')).toBeVisible();
  await expect(panel.getByLabel('Title')).toHaveValue('Numbers');
  await every.fill('3');
  await expect(panel.getByTestId('sentence')).toContainText('3 weeks');
});

test('what is typed survives Escape, Back, a followed link and a reload, and is offered again', async ({
  browser,
}) => {
  const page = await openAs(browser, 'Tomas Okafor');
  const panel = await begin(page, '2027-05-10', 'Not lost');
  // Back closes the panel and not the view.
  await page.goBack();
  await expect(panel).toBeHidden();
  await expect(page.getByRole('heading', { name: /May 2027/ })).toBeVisible();
  const again = () => page.getByRole('button', { name: 'New event', exact: true }).click();
  await again();
  await panel.getByRole('button', { name: 'Go on with it' }).click();
  await expect(panel.getByLabel('Title')).toHaveValue('Not lost');
  // A reload leaves it open.
  await page.reload();
  await expect(panel.getByLabel('Title')).toHaveValue('Not lost');
  await expect(panel.getByText('You go on where you left it.')).toBeVisible();
  await panel.getByLabel('Title').fill('Not lost at all');
  await page.keyboard.press('Escape');
  await expect(panel).toBeHidden();
  await expect(page.getByText('is kept in this tab').first()).toBeVisible();
  // A link elsewhere, and the page of a new event.
  await page.getByRole('link', { name: 'People' }).click();
  await page.goto(address('/events/new'));
  await page.getByRole('button', { name: 'Go on with it' }).click();
  await expect(page.getByLabel('Title', { exact: true })).toHaveValue('Not lost at all');
  await page.reload();
  await expect(page.getByLabel('Title', { exact: true })).toHaveValue('Not lost at all');
  await page.getByRole('button', { name: 'Save to my calendar' }).click();
  await expect(page.getByRole('dialog', { name: 'Not lost at all' })).toBeVisible();
  // Once it is made nothing of it is offered.
  await page.keyboard.press('Escape');
  await again();
  await expect(panel.getByLabel('Title')).toBeVisible();
  await expect(panel.getByText('Begun before')).toBeHidden();
});

test('what is typed beside a form is kept as well, and gone where one starts afresh', async ({
  browser,
}) => {
  const page = await openAs(browser, 'Aksel Nordvik', { path: '/events/new' });
  await page.getByLabel('Title', { exact: true }).fill('Half written');
  const text = page.getByRole('textbox', { name: 'Description' });
  await text.click();
  await page.keyboard.type('Old plan');
  await page.reload();
  await expect(text).toHaveText('Old plan');
  await page.getByRole('button', { name: 'Start afresh' }).click();
  await expect(text).toHaveText('');
  await text.click();
  await page.keyboard.type('New plan');
  await page.getByLabel('Title', { exact: true }).fill('Written anew');
  await page.getByRole('button', { name: 'Save to my calendar' }).click();
  await expect(page.getByRole('dialog', { name: 'Written anew' })).toContainText('New plan');

  // A word to those who are told, where the question is left.
  const id = await makeAny(page, {
    title: 'With a word',
    times: { startsAt: '2027-05-10T10:00', endsAt: '2027-05-10T11:00', zone: 'Europe/Oslo' },
    attendees: [{ personId: await idOf(page, 'Mei Tanaka'), role: 'required' }],
  });
  await page.goto(address(`/events/${id}`));
  const question = page.getByRole('alertdialog', { name: 'Cancel “With a word”' });
  await page.getByRole('button', { name: 'Cancel it' }).click();
  await question.getByLabel('Message to them').fill('The boat is broken');
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Cancel it' }).click();
  await expect(question.getByLabel('Message to them')).toHaveValue('The boat is broken');

  // Hours that were typed and not left.
  await page.goto(address('/preferences'));
  await page.getByLabel('Hours on Monday').fill('9:00–15:00');
  await page.reload();
  await expect(page.getByLabel('Hours on Monday')).toHaveValue(/9:00–15:00/);
});

test('an open form is not replaced when somebody saves the same event elsewhere', async ({
  browser,
}) => {
  const page = await openAs(browser, 'Mika Sandoval');
  const made = await makeEvent(page, 'Two windows', '2027-05-12');
  await page.goto(address(`/calendar?date=2027-05-12&event=${made.id}`));
  const panel = page.getByRole('dialog', { name: 'Two windows' });
  await panel.getByRole('button', { name: 'Change', exact: true }).click();
  await panel.getByLabel('Title').fill('Mine');
  const other = await page.context().newPage();
  await other.goto(address(`/events/${made.id}`));
  await other.getByLabel('Title', { exact: true }).fill('Theirs');
  await placeInWords(other, 'On the quay');
  await other.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(other.getByText('“Theirs” is changed.').first()).toBeVisible();

  const form = page.getByRole('dialog');
  await expect(form.getByText('Somebody else changed this while it was open here.')).toBeVisible();
  await expect(form.getByLabel('Title')).toHaveValue('Mine');
  await expect(form.getByRole('listitem').filter({ hasText: 'Title' })).toContainText('“Theirs”');
  await expect(form.getByRole('textbox', { name: 'Where, in words' })).toHaveValue('On the quay');
  await form.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(page.getByText('“Mine” is changed.').first()).toBeVisible();
  const [saved] = await eventsNamed(page, 'Mine');
  expect(saved).toMatchObject({ title: 'Mine', place: 'On the quay' });
});

test('what is saved over a version that is gone keeps what was typed and says what changed', async ({
  browser,
}) => {
  const page = await openAs(browser, 'Runa Fossheim');
  const made = await makeEvent(page, 'Behind', '2027-05-13');
  await page.goto(address(`/events/${made.id}`));
  await page.getByLabel('Title', { exact: true }).fill('Behind no more');
  // This window hears nothing of it, and sends the version it has read.
  await page.route(`**/api/events/${made.id}*`, (route) =>
    route.request().method() === 'GET' ? route.abort() : route.continue(),
  );
  const changed = await page.request.patch(address(`/api/events/${made.id}`), {
    headers: { Origin: address() },
    data: { version: made.version, place: 'Slipway' },
  });
  expect(changed.status()).toBe(200);
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(page.getByText('This event was changed meanwhile').first()).toBeVisible();
  await page.unroute(`**/api/events/${made.id}*`);
  await expect(page.getByText('Somebody else changed this')).toBeVisible();
  await expect(page.getByLabel('Title', { exact: true })).toHaveValue('Behind no more');
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(page.getByText('“Behind no more” is changed.').first()).toBeVisible();
  expect(await eventsNamed(page, 'Behind no more')).toMatchObject([{ place: 'Slipway' }]);
});

test('a double click makes one, on a slow network and when an answer is lost', async ({
  browser,
}) => {
  const page = await openAs(browser, 'Hal Teague');
  let posts = 0;
  let lost = 0;
  await page.route('**/api/events', async (route) => {
    if (route.request().method() !== 'POST') return route.continue();
    posts++;
    await new Promise((resolve) => setTimeout(resolve, 400));
    if (lost > 0) {
      // Done by the server, and never heard of here.
      lost--;
      await route.fetch();
      return route.abort();
    }
    return route.continue();
  });
  const panel = await begin(page, '2027-05-10', 'Once');
  await panel.getByRole('button', { name: 'Save to my calendar' }).dblclick();
  await expect(panel).toBeHidden();
  expect(await eventsNamed(page, 'Once')).toHaveLength(1);
  expect(posts).toBe(1);

  await page.goto(address('/events/new'));
  await page.getByLabel('Title', { exact: true }).fill('Once more');
  await page.getByRole('button', { name: 'Save to my calendar' }).dblclick();
  await expect(page.getByRole('dialog', { name: 'Once more' })).toBeVisible();
  expect(await eventsNamed(page, 'Once more')).toHaveLength(1);

  // Both tries were done and neither was heard; sent by hand again it is still the same one.
  lost = 2;
  const third = await begin(page, '2027-05-17', 'Heard late');
  await third.getByRole('button', { name: 'Save to my calendar' }).click();
  await expect(third.getByText('The server cannot be reached')).toBeVisible();
  await third.getByRole('button', { name: 'Save to my calendar' }).click();
  await expect(third).toBeHidden();
  expect(await eventsNamed(page, 'Heard late')).toHaveLength(1);

  // Changed meanwhile, it is the same one that is changed.
  lost = 2;
  const fourth = await begin(page, '2027-05-17', 'Heard never');
  await fourth.getByRole('button', { name: 'Save to my calendar' }).click();
  await expect(fourth.getByText('The server cannot be reached')).toBeVisible();
  await fourth.getByLabel('Title').fill('Heard otherwise');
  await fourth.getByRole('button', { name: 'Save to my calendar' }).click();
  await expect(fourth).toBeHidden();
  expect(await eventsNamed(page, 'Heard never')).toHaveLength(0);
  expect(await eventsNamed(page, 'Heard otherwise')).toHaveLength(1);

  // Two quick clicks on one Undo take one thing back.
  await makeByHand(page, '2027-05-24', 'Stays');
  await makeByHand(page, '2027-05-24', 'Goes');
  const goes = page.getByRole('listitem').filter({ hasText: '“Goes” is in your calendar.' });
  await goes.getByRole('button', { name: 'Undo' }).dblclick();
  await expect.poll(async () => (await eventsNamed(page, 'Goes')).length).toBe(0);
  expect(await eventsNamed(page, 'Stays')).toHaveLength(1);
});

async function makeByHand(page: Page, week: string, title: string) {
  const panel = await begin(page, week, title);
  await panel.getByRole('button', { name: 'Save to my calendar' }).click();
  await expect(panel).toBeHidden();
}

test('a session that ended is said, and the same save goes on once it is back', async ({
  browser,
}) => {
  const page = await openAs(browser, 'Clara Weiss');
  const panel = await begin(page, '2027-05-10', 'Signed out');
  const other = await page.context().newPage();
  await other.goto(address('/people'));
  await expect(other.getByRole('heading', { name: 'People' })).toBeVisible();
  await page.context().clearCookies();
  await panel.getByRole('button', { name: 'Save to my calendar' }).click();
  const asked = page.getByRole('alertdialog', { name: 'You are signed out' });
  await asked.getByLabel('Password').fill('not it');
  await asked.getByRole('button', { name: 'Sign in and go on' }).click();
  await expect(asked.getByText('Address or password is wrong.')).toBeVisible();
  await asked.getByLabel('Password').fill('tern-rock');
  await asked.getByRole('button', { name: 'Sign in and go on' }).click();
  await expect(asked).toBeHidden();
  await expect(panel).toBeHidden();
  expect(await eventsNamed(page, 'Signed out')).toHaveLength(1);

  // Signed out in one tab is signed out in the other, and is said there, too.
  await page.getByRole('button', { name: 'Clara', exact: true }).click();
  await page.getByRole('menuitem', { name: 'Sign out' }).click();
  const there = other.getByRole('alertdialog', { name: 'You are signed out' });
  await there.getByLabel('Password').fill('tern-rock');
  await there.getByLabel('Password').press('Enter');
  await expect(there).toBeHidden();
  await expect(other.getByRole('heading', { name: 'People' })).toBeVisible();
});

test('closing a panel gives the focus back to what opened it', async ({ browser }) => {
  const page = await openAs(browser, 'Idris Kaya');
  await makeEvent(page, 'Opener', '2027-05-11');
  await page.goto(address('/calendar?date=2027-05-11'));
  const opener = page.getByRole('button', { name: /Opener/ });
  const panel = page.getByRole('dialog');
  const begun = page.getByRole('button', { name: 'New event', exact: true });
  for (const from of [opener, begun]) {
    for (const close of [
      () => page.keyboard.press('Escape'),
      () => panel.getByRole('button', { name: 'Close' }).click(),
      () => page.goBack(),
    ]) {
      await from.focus();
      await page.keyboard.press('Enter');
      await expect(panel).toBeVisible();
      await close();
      await expect(panel).toBeHidden();
      await expect(from).toBeFocused();
    }
  }
});

test('a time that is over asks before anybody is told of it', async ({ browser }) => {
  const page = await openAs(browser, 'Kwame Boateng', { path: '/events/new' });
  await page.getByLabel('Title', { exact: true }).fill('Long past');
  await page.getByLabel('Day', { exact: true }).fill('2026-11-02');
  // A note of one's own is nobody else's business.
  await page.getByPlaceholder('Add a person, team or place').fill('tom');
  await page.locator('[cmdk-item]', { hasText: 'Tomas Okafor' }).first().click();
  await page.getByRole('button', { name: 'Send to 1 person' }).click();
  const asked = page.getByRole('alertdialog', { name: 'This time is over' });
  await asked.getByRole('button', { name: 'Leave it as it is' }).click();
  await expect(asked).toBeHidden();
  expect(await eventsNamed(page, 'Long past')).toHaveLength(0);
  await page.getByRole('button', { name: 'Send to 1 person' }).click();
  await asked.getByRole('button', { name: 'Do it all the same' }).click();
  await expect(page.getByText('“Long past” is sent to 1 person.').first()).toBeVisible();
});

test('a room of another zone speaks in its clock and in mine, each named', async ({ browser }) => {
  const page = await openAs(browser, 'Kwame Boateng', { path: '/places?open=70' });
  const panel = page.getByRole('dialog');
  await panel.getByLabel('Day', { exact: true }).fill('2027-05-26');
  await panel.getByLabel('Start', { exact: true }).fill('10');
  await panel.getByLabel('End', { exact: true }).fill('11');
  await panel.getByLabel('End', { exact: true }).press('Tab');
  const both = panel.getByText(/^Wed 26 May 10:00–11:00 in \w+, \w+ 2\d May .* in \w+$/);
  await expect(both).toBeVisible();
  await panel.getByRole('button', { name: /^Book / }).click();
  await expect(page.getByText(/is yours, Wed 26 May 10:00–11:00 in \w+, /).first()).toBeVisible();
});

test('what was declined is found by asking for it', async ({ browser }) => {
  const page = await openAs(browser, 'Runa Fossheim');
  const hal = await openAs(browser, 'Hal Teague');
  const people = await page.request.get(address('/api/people?q=Hal%20Teague'));
  const [one] = ((await people.json()) as { people: { id: number }[] }).people;
  const made = await page.request.post(address('/api/events'), {
    headers: { Origin: address(), 'Idempotency-Key': randomUUID() },
    data: {
      title: 'Not for Hal',
      times: { startsAt: '2027-06-02T09:00', endsAt: '2027-06-02T10:00', zone: 'Europe/Oslo' },
      attendees: [{ personId: one!.id, role: 'required' }],
    },
  });
  const { id } = (await made.json()) as EventDetail;
  await hal.goto(address(`/invitations/${id}`));
  await hal.getByRole('button', { name: 'Decline', exact: true }).click();
  await expect(hal.getByText('Your answer: declined.', { exact: true })).toBeVisible();
  await hal.goto(address('/calendar?date=2027-06-02'));
  await expect(hal.locator('[data-grid]')).toBeVisible();
  await expect(hal.locator('[data-item]', { hasText: 'Not for Hal' })).toHaveCount(0);
  await hal.goto(address('/calendar?date=2027-06-02&reply=declined'));
  const item = hal.locator('[data-item]', { hasText: 'Not for Hal' });
  await expect(item).toBeVisible();
  await item.click();
  await hal.getByRole('dialog').getByRole('button', { name: 'Accept', exact: true }).click();
  await hal.goto(address('/calendar?date=2027-06-02'));
  await expect(item).toBeVisible();
});

test('a tap on free time begins an event of the usual length', async ({ browser }) => {
  const page = await openAs(browser, 'Leila Haddad', {
    viewport: { width: 390, height: 844 },
    hasTouch: true,
  });
  await page.goto(address('/calendar?date=2027-06-09&view=day'));
  const column = (await page.locator('[data-day]').first().boundingBox())!;
  await page.touchscreen.tap(column.x + column.width / 2, 480);
  const panel = page.getByRole('dialog', { name: 'New event' });
  await expect(panel.getByLabel('Title')).toBeVisible();
  await expect(panel.getByLabel('Day', { exact: true })).toHaveValue('Wed 9 Jun 2027');
  await panel.getByLabel('Title').fill('Tapped');
  await panel.getByRole('button', { name: 'Save to my calendar' }).click();
  await expect(panel).toBeHidden();
  expect(await eventsNamed(page, 'Tapped')).toHaveLength(1);
});
