import { expect, test, type Locator, type Page } from '@playwright/test';
import { address, choose, eventsNamed, idOf, makeEvent, openAs } from './support.ts';

const DAY = '2027-02-18';

const lane = (page: Page, name: string): Locator =>
  page.locator(`[data-lane][aria-label^="${name}:"]`);

/** Where an hour stands in a place's lane, between 7 and 20 o'clock. */
async function at(page: Page, name: string, hour: number): Promise<[x: number, y: number]> {
  const box = (await lane(page, name).boundingBox())!;
  return [box.x + ((hour - 7) / 13) * box.width, box.y + box.height / 2];
}

async function drag(page: Page, from: [string, number], to: [string, number]) {
  await page.mouse.move(...(await at(page, ...from)));
  await page.mouse.down();
  await page.mouse.move(...(await at(page, ...to)), { steps: 6 });
}

async function board(page: Page) {
  await page.goto(address(`/places/board?date=${DAY}`));
  await expect(lane(page, 'Gannet')).toBeVisible();
}

test('a drag over free time books it, several places all or none, typed and dragged in step', async ({
  browser,
}) => {
  const page = await openAs(browser, 'Oskar Lindqvist');
  await board(page);
  await drag(page, ['Kittiwake', 11.05], ['Kittiwake', 12.4]);
  await expect(page.getByRole('status').filter({ hasText: 'Kittiwake' })).toContainText(
    '11:00–12:30',
  );
  await page.mouse.up();
  await expect(page.getByRole('dialog', { name: 'Kittiwake, 11:00–12:30' })).toBeVisible();
  const panel = page.getByRole('dialog');
  await expect(panel.getByLabel('Start', { exact: true })).toHaveValue('11:00');
  await panel.getByLabel('End', { exact: true }).fill('12:10');
  await panel.getByLabel('End', { exact: true }).press('Tab');
  await expect(page.getByRole('dialog', { name: 'Kittiwake, 11:00–12:10' })).toBeVisible();
  await page.keyboard.down('Shift');
  await page.mouse.click(...(await at(page, 'Skua', 11.5)));
  await page.keyboard.up('Shift');
  const both = page.getByRole('dialog', { name: '2 places, 11:00–12:10' });
  await both.getByLabel('What for, if you like').fill('Board walk');
  await both.getByRole('button', { name: 'Book 2 places' }).click();
  await expect(
    page.getByText(/^Kittiwake and Skua are yours, Thu 18 Feb 11:00–12:10/).first(),
  ).toBeVisible();
  await expect(lane(page, 'Skua').locator('[data-booking]')).toHaveText('Board walk');

  // Somebody else sees that both are taken, and is told before and after what stands in the way.
  const other = await openAs(browser, 'Clara Weiss');
  await board(other);
  await drag(other, ['Skua', 10.05], ['Skua', 11.4]);
  await expect(other.getByRole('status').filter({ hasText: 'Skua' })).toContainText(
    'Skua is taken 11:00–12:10',
  );
  await other.mouse.up();
  const refused = other.getByRole('dialog', { name: 'Skua, 10:00–11:30' });
  await expect(refused.getByText('Skua is taken 11:00–12:10')).toBeVisible();
  await refused.getByRole('button', { name: 'Book Skua' }).click();
  await expect(refused.getByText(/Skua is taken, Thu 18 Feb 11:00–12:10/)).toBeVisible();
  expect(await eventsNamed(other, 'Skua booked')).toHaveLength(0);
});

test('moving a booking into another room is a drag, extending it another, each taken back', async ({
  browser,
}) => {
  const page = await openAs(browser, 'Fatou Diarra');
  await board(page);
  await drag(page, ['Guillemot', 14.05], ['Guillemot', 14.9]);
  await page.mouse.up();
  await page.getByRole('dialog').getByRole('button', { name: 'Book Guillemot' }).click();
  const bar = (name: string) => lane(page, name).locator('[data-booking]');
  await expect(bar('Guillemot')).toHaveText('Guillemot booked');
  const bars = await bar('Puffin').count();
  await drag(page, ['Guillemot', 14.5], ['Puffin', 16.5]);
  await page.mouse.up();
  await expect(page.getByText(/is now Puffin, Thu 18 Feb 16:00–17:00/).first()).toBeVisible();
  await expect(bar('Guillemot')).toHaveCount(0);
  await expect(bar('Puffin')).toHaveCount(bars + 1);
  // What nobody gave a title is called by the place it has.
  await expect(bar('Puffin').filter({ hasText: 'Puffin booked' })).toHaveCount(1);
  await drag(page, ['Puffin', 16.99], ['Puffin', 17.5]);
  await page.mouse.up();
  await expect(page.getByText(/is now Thu 18 Feb 16:00–17:30/).first()).toBeVisible();
  await expect(lane(page, 'Puffin')).toHaveAttribute('aria-label', /16:00–17:30/);
  await page.keyboard.press('Control+z');
  await expect(lane(page, 'Puffin')).toHaveAttribute('aria-label', /16:00–17:00/);
  await page.keyboard.press('Control+z');
  await expect(bar('Guillemot')).toHaveCount(1);
});

test('wishes leave what fits, and what keeps the others out can be dropped', async ({
  browser,
}) => {
  const page = await openAs(browser, 'Clara Weiss', {
    path: `/places/board?date=${DAY}&seats=40&with=whiteboard`,
  });
  await expect(page.getByText('0 of 10 fit')).toBeVisible();
  const without = page.getByRole('listitem').filter({ hasText: 'Without “with whiteboard”' });
  await expect(without).toContainText('1 place more');
  await without.getByRole('button', { name: 'Drop it' }).click();
  await expect(page.getByText('1 of 10 fits')).toBeVisible();
  await expect(lane(page, 'Cormorant Hall')).toBeVisible();
  // A rule is said before the drop, too: the hall is open from 7 to 20, and not on Sundays.
  await page.goto(address('/places/board?date=2027-02-21&seats=40'));
  await drag(page, ['Cormorant Hall', 10.05], ['Cormorant Hall', 11]);
  await expect(page.getByRole('status').filter({ hasText: 'Cormorant' })).toContainText(
    'Cormorant Hall is closed on Sun 21 Feb',
  );
  await page.mouse.up();
  await page.getByRole('button', { name: 'Ask for Cormorant Hall' }).click();
  await expect(page.getByRole('dialog').getByRole('alert')).toContainText('Nothing was booked');
});

test('by keys a place is found, its time picked and stretched, and booked', async ({ browser }) => {
  const page = await openAs(browser, 'Mei Tanaka');
  await board(page);
  await lane(page, 'Cormorant Hall').focus();
  for (let k = 0; k < 3; k++) await page.keyboard.press('ArrowDown');
  await expect(lane(page, 'Imaging lab')).toBeFocused();
  await page.keyboard.press('ArrowUp');
  const panel = (name: RegExp) => page.getByRole('dialog', { name });
  await page.keyboard.press('ArrowRight');
  await expect(panel(/^Wet lab B, 0?7:00( am)?–0?7:30/)).toBeVisible();
  for (let k = 0; k < 4; k++) await page.keyboard.press('ArrowRight');
  await page.keyboard.press('Shift+ArrowRight');
  await expect(panel(/^Wet lab B, 0?8:00( am)?–0?8:45/)).toBeVisible();
  await expect(lane(page, 'Wet lab B')).toBeFocused();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('dialog').getByLabel('Day', { exact: true })).toBeFocused();
  await page.keyboard.press('Escape');
  await expect(page.getByRole('dialog')).toHaveCount(0);
});

test('a place over a week: its days below one another, a drag to another day moves a booking', async ({
  browser,
}) => {
  const page = await openAs(browser, 'Leila Haddad');
  await board(page);
  await page
    .getByRole('button', { name: /^Wet lab A/ })
    .first()
    .click();
  await expect(page.getByText('Wet lab A for')).toBeVisible();
  await expect(page.locator('[data-lane]')).toHaveCount(7);
  await drag(page, ['Thu 18 Feb', 9.05], ['Thu 18 Feb', 10.4]);
  await page.mouse.up();
  await page.getByRole('button', { name: 'Book Wet lab A' }).click();
  await expect(lane(page, 'Thu 18 Feb').locator('[data-booking]')).toHaveCount(1);
  await drag(page, ['Thu 18 Feb', 9.5], ['Mon 22 Feb', 13.5]);
  await page.mouse.up();
  await expect(page.getByText(/is now Mon 22 Feb 13:00–14:30/).first()).toBeVisible();
  await page.reload();
  await expect(lane(page, 'Mon 22 Feb').locator('[data-booking]')).toHaveCount(1);
});

test('among many places a floor and a name leave few, and a drag at the edge scrolls to the others', async ({
  browser,
}) => {
  const page = await openAs(browser, 'Oskar Lindqvist', {
    path: `/places/board?date=${DAY}&kind=room,lab,desk,equipment&site=all`,
  });
  const view = page.locator('#view');
  await expect(lane(page, 'Guillemot').or(page.locator('[data-lane]').first())).toBeVisible();
  await expect(page.getByRole('button', { name: 'The whole day' })).toBeInViewport();
  const first = (await page.locator('[data-lane]').first().boundingBox())!;
  await page.mouse.move(first.x + 300, first.y + 10);
  await page.mouse.down();
  await page.mouse.move(first.x + 400, first.y + 12, { steps: 3 });
  const { height } = page.viewportSize()!;
  await page.mouse.move(first.x + 400, height - 60, { steps: 5 });
  await expect.poll(() => view.evaluate((one) => one.scrollTop)).toBeGreaterThan(200);
  await page.keyboard.press('Escape');
  await page.mouse.up();

  await page.goto(address(`/places/board?date=${DAY}`));
  await choose(page.getByRole('combobox', { name: 'Floor' }), 'floor 2');
  await expect(page.locator('[data-lane]')).toHaveCount(2);
  await page.getByLabel('Name, description or feature').fill('gan');
  await expect(page.locator('[data-lane]')).toHaveCount(1);
  await expect(page).toHaveURL(/floor=2.*q=gan/);
  // By keys, what is chosen is said with whether it can be had.
  await lane(page, 'Gannet').focus();
  await page.keyboard.press('ArrowRight');
  await expect(page.getByRole('status').filter({ hasText: /^Gannet, .*: free$/ })).toHaveCount(1);
});

test('on a phone a tap picks a time, and two more book it', async ({ browser }) => {
  const page = await openAs(browser, 'Runa Fossheim', {
    viewport: { width: 390, height: 844 },
    hasTouch: true,
  });
  await board(page);
  // It may lie below what is seen, where other tests have added places.
  await lane(page, 'Guillemot').scrollIntoViewIfNeeded();
  await page.touchscreen.tap(...(await at(page, 'Guillemot', 17.1)));
  const panel = page.getByRole('dialog', { name: /^Guillemot, 17:00/ });
  await panel.getByRole('button', { name: 'Book Guillemot' }).click();
  await expect(page.getByText(/^Guillemot is yours/).first()).toBeVisible();
});

test('favourites stand first, wherever they are, until they are left out again', async ({
  browser,
}) => {
  const page = await openAs(browser, 'Hedda Solbakken');
  await board(page);
  await lane(page, 'Skua').focus();
  await page.keyboard.press('f');
  const names = page.locator('[data-lane]');
  await expect(page.getByRole('heading', { name: /^My favourites/ })).toBeVisible();
  await expect(names.first()).toHaveAttribute('aria-label', /^Skua:/);
  await page.reload();
  await expect(names.first()).toHaveAttribute('aria-label', /^Skua:/);
  await page.getByRole('button', { name: 'Leave Skua out of my favourites' }).click();
  await expect(page.getByRole('heading', { name: /^My favourites/ })).toHaveCount(0);
  await expect(names.first()).toHaveAttribute('aria-label', /^Cormorant Hall:/);
});

test('a booking of mine is taken up by keys, carried into another place, and put down', async ({
  browser,
}) => {
  const page = await openAs(browser, 'Oskar Lindqvist');
  await makeEvent(page, {
    title: 'Count the eggs',
    times: { startsAt: '2027-06-19T13:00', endsAt: '2027-06-19T14:00', zone: 'Europe/Oslo' },
    resources: [await idOf(page, 'Guillemot')],
  });
  await page.goto(address('/places/board?date=2027-06-19&kind=room'));
  await expect(lane(page, 'Guillemot')).toContainText('Count the eggs');
  await lane(page, 'Guillemot').focus();
  await page.keyboard.press('m');
  await expect(
    page.getByRole('status').filter({ hasText: 'Guillemot, Sat 19 Jun 13:00–14:00' }),
  ).toBeVisible();
  for (const key of ['ArrowRight', 'ArrowRight', 'Shift+ArrowRight', 'ArrowUp'])
    await page.keyboard.press(key);
  // It is said where it would be, before it is there.
  await expect(
    page.getByRole('status').filter({ hasText: 'Fulmar, Sat 19 Jun 13:30–14:45' }),
  ).toBeVisible();
  await page.keyboard.press('Enter');
  await expect(page.getByText(/is now Fulmar, Sat 19 Jun 13:30–14:45/).first()).toBeVisible();
  await expect(lane(page, 'Fulmar')).toContainText('Count the eggs');

  // Escape leaves it where it is.
  await lane(page, 'Fulmar').focus();
  await page.keyboard.press('m');
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('Escape');
  await expect(page.getByRole('status').filter({ hasText: /^Fulmar, / })).toHaveCount(0);
  await expect(lane(page, 'Fulmar')).toHaveAttribute('aria-label', /13:30–14:45/);
});

test('what repeats is booked beside the board, date by date where somebody else has one', async ({
  browser,
}) => {
  const other = await openAs(browser, 'Clara Weiss');
  await makeEvent(other, {
    title: 'Moult survey',
    times: { startsAt: '2027-07-10T14:00', endsAt: '2027-07-10T15:00', zone: 'Europe/Oslo' },
    resources: [await idOf(other, 'Guillemot')],
  });
  const page = await openAs(browser, 'Oskar Lindqvist', {
    path: '/places/board?date=2027-07-03&kind=room',
  });
  await drag(page, ['Guillemot', 14.05], ['Guillemot', 14.9]);
  await page.mouse.up();
  const panel = page.getByRole('dialog', { name: 'Guillemot, 14:00–15:00' });
  await panel.getByLabel('What for, if you like').fill('Ring reading');
  await choose(panel.getByLabel('Repeats'), 'by weeks');
  await choose(panel.getByLabel('Ends'), 'after a number of dates');
  await panel.getByRole('spinbutton', { name: 'How many times' }).fill('4');
  await expect(panel.getByTestId('sentence')).toHaveText('Every Saturday, 4 times');
  // One date is left out from the beginning.
  await panel.getByRole('button', { name: 'Sat 24 Jul' }).click();
  await panel.getByRole('button', { name: 'Book Guillemot' }).click();
  const taken = panel.getByRole('alert');
  await expect(taken).toContainText('Sat 10 Jul: Guillemot is taken');
  await choose(taken.getByLabel('On Sat 10 Jul'), 'Leave this date out');
  await taken.getByRole('button', { name: 'Book it like this' }).click();
  await expect(
    page
      .getByText(
        'Guillemot is yours, Sat 3 Jul 14:00–15:00, every Saturday, 4 times (1 date left out).',
      )
      .first(),
  ).toBeVisible();
  const dates = await eventsNamed(page, 'Ring reading');
  expect(dates.map((one) => one.recurrenceId)).toEqual(['2027-07-03T14:00', '2027-07-17T14:00']);
  // The whole series is taken back with one click.
  await page.getByRole('button', { name: 'Undo' }).first().click();
  await expect(page.getByText('Guillemot is given back.').first()).toBeVisible();
  expect(await eventsNamed(page, 'Ring reading')).toHaveLength(0);
});

test('a steward books for somebody who has no calendar at hand, and takes it back', async ({
  browser,
}) => {
  const page = await openAs(browser, 'Ines Aldabe', {
    path: '/places/board?date=2027-08-14&kind=room',
  });
  await drag(page, ['Guillemot', 10.05], ['Guillemot', 10.9]);
  await page.mouse.up();
  const panel = page.getByRole('dialog', { name: 'Guillemot, 10:00–11:00' });
  await panel.getByLabel('What for, if you like').fill('Talk of a guest');
  await choose(panel.getByLabel('Whose booking it is'), 'somebody else …');
  // Nothing is booked for nobody, nor for oneself instead.
  await expect(panel.getByRole('button', { name: 'Book Guillemot' })).toBeDisabled();
  // Whoever chooses that types on at once.
  await expect(panel.getByRole('combobox', { name: 'Whom it is for' })).toBeFocused();
  await page.keyboard.type('fatou');
  await panel.getByRole('option', { name: /Fatou Diarra/ }).click();
  await expect(panel.getByLabel('Whose booking it is')).toContainText('Fatou Diarra');
  await expect(
    panel.getByRole('checkbox', { name: 'Their time is taken then, too' }),
  ).toBeVisible();
  await panel.getByRole('button', { name: 'Book Guillemot' }).click();
  await expect(
    page.getByText('Guillemot is Fatou’s, Sat 14 Aug 10:00–11:00.').first(),
  ).toBeVisible();
  const holder = await openAs(browser, 'Fatou Diarra');
  expect(await eventsNamed(holder, 'Talk of a guest')).toHaveLength(1);
  await page.getByRole('button', { name: 'Undo' }).first().click();
  await expect(page.getByText('Guillemot is given back.').first()).toBeVisible();
  expect(await eventsNamed(holder, 'Talk of a guest')).toHaveLength(0);
});

test('what a move takes along, loses or leaves behind is said before it is done', async ({
  browser,
}) => {
  const page = await openAs(browser, 'Oskar Lindqvist');
  const ids = [await idOf(page, 'Kittiwake'), await idOf(page, 'Guillemot')];
  await makeEvent(page, {
    title: 'In two rooms',
    times: { startsAt: `${DAY}T08:00`, endsAt: `${DAY}T09:00`, zone: 'Europe/Oslo' },
    resources: ids,
  });
  await board(page);
  await drag(page, ['Kittiwake', 8.5], ['Cormorant Hall', 10.5]);
  await page.mouse.up();
  const question = page.getByRole('alertdialog', {
    name: /^Move “In two rooms” to Cormorant Hall/,
  });
  await expect(question.getByText('Guillemot moves with it.')).toBeVisible();
  await expect(question.getByText(/Cormorant Hall needs a steward’s agreement/)).toBeVisible();
  await question.getByRole('button', { name: 'Leave it as it is' }).click();
  await expect(lane(page, 'Kittiwake')).toHaveAttribute('aria-label', /8:00–09:00 In two rooms/);
  // Where it is put elsewhere at its own time, its other room is said to stay.
  await drag(page, ['Kittiwake', 8.5], ['Puffin', 8.5]);
  await page.mouse.up();
  await expect(page.getByText(/is now Puffin, .*\. It stays in Guillemot\./).first()).toBeVisible();
  // What is asked for, and what it costs, is said where it is booked.
  await drag(page, ['Cormorant Hall', 12.05], ['Cormorant Hall', 12.9]);
  await page.mouse.up();
  const terms = page.getByRole('dialog').getByLabel('What it costs, and who has to agree');
  await expect(terms).toContainText('Cormorant Hall costs NOK 600 for that time.');
  await expect(terms).toContainText('held for you until a steward agrees');
});

test('what somebody else has is clicked to see what can be had instead, or to wait for it', async ({
  browser,
}) => {
  const holder = await openAs(browser, 'Clara Weiss');
  await makeEvent(holder, {
    title: 'Not theirs',
    visibility: 'private',
    times: { startsAt: `${DAY}T17:00`, endsAt: `${DAY}T18:00`, zone: 'Europe/Oslo' },
    resources: [await idOf(holder, 'Fulmar')],
  });
  const page = await openAs(browser, 'Oskar Lindqvist');
  await board(page);
  await page.mouse.click(...(await at(page, 'Fulmar', 17.5)));
  const panel = page.getByRole('dialog', { name: 'Fulmar, 17:00–18:00' });
  await expect(panel.getByText(/Fulmar is taken 17:00–18:00/)).toBeVisible();
  await expect(panel.getByRole('button', { name: 'Hold it and tell me' })).toBeVisible();
  const free = panel.getByText('Free at that time:').getByRole('button').first();
  const name = await free.textContent();
  await free.click();
  await expect(page.getByRole('dialog', { name: `${name}, 17:00–18:00` })).toBeVisible();
});
