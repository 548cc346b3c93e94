import { expect, test, type Page } from '@playwright/test';
import { address, addToLineUp, choose, openAs } from './support.ts';

const lineUp = (page: Page) => page.getByRole('region', { name: 'Line-up' });
const openings = (page: Page) => page.getByRole('region', { name: 'Openings' });
const blockers = (page: Page) => page.getByRole('region', { name: 'What would help' });

async function ids(page: Page): Promise<Record<string, number>> {
  return page.evaluate(async () => {
    const answer = await fetch('/api/search/names');
    const { people, resources } = (await answer.json()) as Record<
      string,
      { id: number; name: string }[]
    >;
    return Object.fromEntries([...people!, ...resources!].map((one) => [one.name, one.id]));
  });
}

async function make(page: Page, request: object) {
  return page.evaluate(async (body) => {
    const answer = await fetch('/api/events', {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify(body),
    });
    return { status: answer.status, event: (await answer.json()) as { id: string } };
  }, request);
}

test('a fitting room is found at each of two sites, and both are booked with the meeting', async ({
  browser,
}) => {
  const page = await openAs(browser, 'Clara Weiss', { path: '/plan?minutes=30&stretch=180' });
  await addToLineUp(page, 'hedda', 'Hedda Solbakken');
  await addToLineUp(page, 'sofie', 'Sofie Maclean');
  await choose(page.getByLabel('Which places must be free'), 'a fitting room at each site');
  await page.getByRole('group', { name: 'What the rooms need' }).getByLabel('video').check();
  const first = openings(page).getByRole('button').first();
  await expect(first).toContainText(/for 2 at Bergen/);
  await expect(first).toContainText(/for 1 at Halifax/);
  await first.click();
  await expect(page.getByText(/In \S.* \(Bergen\) and .* \(Halifax\)\./)).toBeVisible();

  // The rooms for the time: what is taken says until when, what is too small says so.
  await page.getByRole('button', { name: 'Rooms for the time' }).click();
  const rooms = page.getByRole('region', { name: 'Rooms' });
  await expect(rooms.getByText('Bergen, 2 people there')).toBeVisible();
  await rooms.getByRole('button', { name: 'Take Guillemot' }).click();
  await expect(lineUp(page).getByText('Guillemot')).toBeVisible();
  await rooms.getByRole('button', { name: 'Leave Guillemot out' }).click();
  await rooms.getByLabel('Find a room by name, feature or floor').fill('orchestra');
  await expect(rooms.getByText(/None of the 7 rooms here is like that/)).toBeVisible();

  await page.getByLabel('Title of the meeting').fill('Ice call');
  await page.getByRole('button', { name: 'Send to 2 people, hold 2 places' }).click();
  await expect(page).toHaveURL(/\/replies/);
  const { items } = await page.evaluate(async () => {
    const from = Date.UTC(2026, 10, 24);
    const answer = await fetch(`/api/calendar?from=${from}&to=${from + 20 * 86_400_000}`);
    return (await answer.json()) as { items: { title: string; resources: string[] }[] };
  });
  expect(items.find((one) => one.title === 'Ice call')!.resources).toHaveLength(2);
});

test('from all blocked to the reason is one gesture, and each way out is one click', async ({
  browser,
}) => {
  const page = await openAs(browser, 'Kwame Boateng');
  const id = await ids(page);
  // Ylva is away all those days, and Kwame's own meeting stands in the only hour that Mika has.
  const ylva = await openAs(browser, 'Ylva Strand');
  const away = { zone: 'Europe/Oslo', allDay: true };
  await make(ylva, {
    title: 'Leave',
    showsAs: 'away',
    times: { ...away, startsAt: '2027-06-14T00:00', endsAt: '2027-06-19T00:00' },
  });
  const busy = (startsAt: string, endsAt: string) => ({
    title: 'Desk work',
    times: { startsAt, endsAt, zone: 'Europe/Oslo' },
  });
  for (const day of [14, 15, 16, 17, 18])
    await make(page, busy(`2027-06-${day}T08:00`, `2027-06-${day}T16:30`));
  await page.goto(
    address(
      `/plan?from=2027-06-14&days=5&minutes=60&stretch=0&with=${id['Ylva Strand']},${id['Tomas Okafor']}`,
    ),
  );
  await expect(openings(page).getByRole('status')).toContainText('Ylva');
  const row = page.getByTestId('ridge-2027-06-15');
  const box = (await row.boundingBox())!;
  await page.mouse.move(box.x + box.width * 0.4, box.y + 10);
  await expect(page.getByTestId('readout')).toContainText(/Ylva \(away through Fri 18 Jun\)/);
  await expect(page.getByTestId('readout')).toContainText('Kwame (taken until 16:30)');
  await page.getByRole('button', { name: /Tue 15 Jun.*away: Ylva/ }).click();
  await expect(page.getByRole('img', { name: /^Ylva Strand: away all day/ })).toBeVisible();

  // A week further there is time; the blockers say so, and one click looks.
  await blockers(page)
    .getByRole('button', { name: 'try it: Look on through Fri 25 Jun' })
    .or(blockers(page).getByRole('button', { name: /try it: Look on until/ }))
    .first()
    .click();
  await expect(page.getByTestId(/^ridge-/)).toHaveCount(10);
  await expect(openings(page)).toContainText(/starts, best first/);
  await page.keyboard.press('Control+z');
  await expect(page.getByTestId(/^ridge-/)).toHaveCount(5);
});

test('one of my own meetings makes room, and goes where its own people can', async ({
  browser,
}) => {
  const page = await openAs(browser, 'Pedro Quintela');
  const id = await ids(page);
  const times = (startsAt: string, endsAt: string) => ({ startsAt, endsAt, zone: 'Europe/Oslo' });
  const anneke = [{ personId: id['Anneke de Wit'], role: 'required' }];
  await make(page, {
    title: 'Buoy budget',
    times: times('2027-07-05T10:00', '2027-07-05T11:00'),
    attendees: anneke,
  });
  await make(page, { title: 'Stores', times: times('2027-07-05T08:00', '2027-07-05T10:00') });
  await make(page, { title: 'Stores', times: times('2027-07-05T11:00', '2027-07-05T16:30') });
  for (const day of ['06', '07', '08', '09'])
    await make(page, {
      title: 'Stores',
      times: times(`2027-07-${day}T08:00`, `2027-07-${day}T15:30`),
    });
  const runa = await openAs(browser, 'Runa Fossheim');
  for (const day of ['06', '07', '08', '09'])
    await make(runa, {
      title: 'Press',
      times: times(`2027-07-${day}T15:00`, `2027-07-${day}T16:30`),
    });
  await page.goto(
    address(`/plan?from=2027-07-05&days=5&minutes=60&stretch=0&with=${id['Runa Fossheim']}`),
  );
  const move = blockers(page).getByRole('listitem').filter({ hasText: 'Move your “Buoy budget”' });
  await expect(move).toContainText('where all 2 of it are free');
  await move.getByRole('button', { name: /^(move it|try it)/ }).click();
  const ask = page.getByRole('alertdialog');
  await expect(ask).toContainText(/Move “Buoy budget” to .* 15:30–16:30\?/);
  await ask.getByRole('button', { name: 'Move it with this and tell 1 person' }).click();
  await expect(openings(page).getByRole('button', { name: /Mon 5 Jul 10:00/ })).toBeVisible();
  await expect(page.getByText('Everyone and everything in the line-up is free.')).toBeVisible();

  // It goes with what is sent, and comes back with it.
  await expect(
    page.getByText(/Moves your “Buoy budget” to .* 15:30–16:30, 1 to be told/),
  ).toBeVisible();
  const buoys = async () => {
    const found = await page.request.get(address('/api/calendar/search?q=Buoy%20budget'));
    const { found: list } = (await found.json()) as { found: { title: string; start: number }[] };
    return list
      .filter((one) => one.title === 'Buoy budget' && one.start > Date.UTC(2027, 0))
      .map((one) => new Date(one.start).toISOString());
  };
  expect(await buoys()).toEqual(['2027-07-05T08:00:00.000Z']);
  await page.getByLabel('Title of the meeting').fill('Press and stores');
  await page.getByRole('button', { name: 'Send to 1 person' }).click();
  await expect(page).toHaveURL(/replies/);
  const [moved] = await buoys();
  expect(moved).toMatch(/T13:30/);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(
    page.getByText('Taken back, and what made room is where it was.', { exact: true }),
  ).toBeVisible();
  expect(await buoys()).toEqual(['2027-07-05T08:00:00.000Z']);
});

test('a series takes the weekly time that works most often, with its exceptions', async ({
  browser,
}) => {
  const page = await openAs(browser, 'Bartosz Zieliński');
  const id = await ids(page);
  const hedda = await openAs(browser, 'Hedda Solbakken');
  // She cannot on one Monday, nor at any time of another week.
  const day = (from: string, to: string) => ({
    title: 'Leave',
    showsAs: 'away',
    times: { startsAt: `${from}T00:00`, endsAt: `${to}T00:00`, zone: 'Europe/Oslo', allDay: true },
  });
  await make(hedda, day('2027-08-09', '2027-08-10'));
  await make(hedda, day('2027-08-16', '2027-08-21'));
  await page.goto(
    address(`/plan?from=2027-08-02&minutes=60&title=Floe+log&with=${id['Hedda Solbakken']}`),
  );
  await choose(page.getByLabel('How often'), 'weekly');
  await choose(page.getByLabel('How many dates'), '4 times');
  const weekly = page.getByRole('region', { name: 'Weekly times' });
  await expect(weekly.getByRole('button').first()).toContainText('works on 3 of 4');
  await page.getByLabel('Day', { exact: true }).fill('2027-08-02');
  await page.getByLabel('Start', { exact: true }).fill('10');
  await page.getByLabel('Start', { exact: true }).press('Enter');
  await expect(page.getByText('Mondays 10:00, from Mon 2 Aug to Mon 23 Aug')).toBeVisible();
  await expect(page.getByText(/Works on 2 of 4 dates/)).toBeVisible();
  // One date can be held on another day of its week, the other cannot and is left out.
  await expect(weekly.getByLabel('What to do on Mon 9 Aug')).toContainText('instead');
  await expect(weekly.getByLabel('What to do on Mon 16 Aug')).toContainText('leave it out');
  await page.getByRole('button', { name: 'Send to 1 person' }).click();
  await expect(page).toHaveURL(/\/replies/);
  await page.goto(address('/calendar?view=month&date=2027-08-01'));
  const held = page.locator('[data-item]', { hasText: 'Floe log' });
  await expect(held).toHaveCount(3);
  const titles = await held.evaluateAll((list) => list.map((one) => one.getAttribute('title')));
  expect(titles[0]).toContain('Mon 2 Aug 10:00–11:00');
  expect(titles[1]).toMatch(/(Tue 10|Wed 11|Thu 12|Fri 13) Aug/);
  expect(titles[2]).toContain('Mon 23 Aug 10:00–11:00');
});

test('a sentence makes a plan, shown as chips that can be corrected first', async ({ browser }) => {
  const page = await openAs(browser, 'Ines Aldabe');
  await page.keyboard.press('/');
  await page.keyboard.type('kelp review with Wanjru and Menon Thu 14:00 45m in Gannet');
  const chips = page.getByRole('list', { name: 'Understood' });
  await expect(chips).toContainText('about Kelp review');
  await expect(chips).toContainText('with Wanjiru Keele');
  await expect(chips).toContainText('on Thu 26 Nov');
  await chips.getByRole('button', { name: 'Not Devika Menon but Ravi Menon' }).click();
  await expect(chips).toContainText('with Ravi Menon');
  await chips.getByRole('button', { name: 'Leave out Wanjiru Keele' }).click();
  await page.keyboard.press('Enter');
  await expect(page.getByText('Thu 26 Nov 14:00–14:45').first()).toBeVisible();
  await expect(page.getByLabel('Title of the meeting')).toHaveValue('Kelp review');
  await expect(lineUp(page).getByText('Ravi Menon')).toBeVisible();
  await expect(lineUp(page).getByText('Gannet')).toBeVisible();
  await expect(lineUp(page).getByText('Wanjiru Keele')).toHaveCount(0);
});

test('a meeting goes back into Plan, its present time marked, and is moved', async ({
  browser,
}) => {
  const page = await openAs(browser, 'Nadia Petrov');
  const id = await ids(page);
  const { event } = await make(page, {
    title: 'Chain talk',
    times: { startsAt: '2027-09-06T10:00', endsAt: '2027-09-06T10:45', zone: 'Europe/Oslo' },
    attendees: [{ personId: id['Sigrid Aune'], role: 'optional' }],
    resources: [id['Puffin']],
  });
  await page.goto(address('/calendar?view=week&date=2027-09-06'));
  await page.locator('[data-item]', { hasText: 'Chain talk' }).click();
  await page.getByRole('link', { name: 'Another time' }).click();
  await expect(page).toHaveURL(new RegExp(`event=${event.id}`));
  await expect(page.getByText('Now Mon 6 Sep 10:00–10:45')).toBeVisible();
  await expect(page.getByTestId('present-time').first()).toBeVisible();
  await expect(lineUp(page)).toContainText('Sigrid Aune');
  await expect(lineUp(page)).toContainText('Puffin');
  await page.getByLabel('Start', { exact: true }).fill('13.15');
  await page.getByLabel('Start', { exact: true }).press('Enter');
  await expect(page.getByText('Mon 6 Sep 13:15–14:00').first()).toBeVisible();
  await expect(page.getByRole('button', { name: 'Move it, 1 to be told' })).toBeVisible();
  // Whom it asks is changed with it, and said.
  await addToLineUp(page, 'Jonas', 'Jonas Vågen');
  await expect(page.getByText('Asks Jonas Vågen as well.')).toBeVisible();
  await page.getByRole('button', { name: 'Move it, 2 to be told' }).click();
  await page
    .getByRole('alertdialog')
    .getByRole('button', { name: 'Move it and tell 2 people' })
    .click();
  await expect(page).toHaveURL(/\/calendar/);
  await expect(page.locator('[data-item]', { hasText: 'Chain talk' })).toHaveAttribute(
    'title',
    'Chain talk, Mon 6 Sep 13:15–14:00',
  );
});

test('a time typed before the meeting is read is not put on another day', async ({ browser }) => {
  const page = await openAs(browser, 'Nadia Petrov');
  const id = await ids(page);
  const { event } = await make(page, {
    title: 'Slow talk',
    times: { startsAt: '2027-10-06T10:00', endsAt: '2027-10-06T10:45', zone: 'Europe/Oslo' },
    attendees: [{ personId: id['Sigrid Aune'], role: 'optional' }],
  });
  const isOf = (url: URL) => url.pathname === `/api/events/${event.id}`;
  await page.route(isOf, async (route) => {
    await new Promise((resolve) => setTimeout(resolve, 2_000));
    // It may have been read again, or left, meanwhile.
    await route.continue().catch(() => undefined);
  });
  await page.goto(address(`/plan?event=${event.id}`));
  await expect(page.getByText('Reading the meeting …')).toBeVisible();
  await expect(page.getByRole('button', { name: /^Send|^Put/ })).toHaveCount(0);
  await page.getByLabel('Start', { exact: true }).fill('16');
  await page.getByLabel('Start', { exact: true }).press('Enter');
  await expect(page.getByText('Wed 6 Oct 16:00–16:45').first()).toBeVisible();
  await expect(page.getByRole('button', { name: 'Move it, 1 to be told' })).toBeEnabled();

  // Where it cannot be read, that is said, and nothing new is offered in its stead.
  await page.unroute(isOf);
  // It is read again by itself from time to time, and may be until somebody tries.
  const hasTried = () => page.evaluate(() => 'tried' in document.documentElement.dataset);
  await page.route(isOf, async (route) => {
    if (await hasTried()) await route.continue();
    else await route.fulfill({ status: 500, body: '{}' });
  });
  await page.goto(address(`/plan?event=${event.id}`));
  await expect(page.getByRole('button', { name: 'Try again' })).toBeVisible();
  await expect(page.getByRole('button', { name: /^Send|^Put/ })).toHaveCount(0);
  await page.evaluate(() => {
    const note = (event: Event) => {
      if (event.target instanceof HTMLButtonElement && event.target.textContent === 'Try again')
        document.documentElement.dataset.tried = '';
    };
    document.addEventListener('click', note, { capture: true });
  });
  await page.getByRole('button', { name: 'Try again' }).click();
  await expect(page.getByText('Now Wed 6 Oct 10:00–10:45')).toBeVisible();
});

test('a time far from the days shown is looked up before anything is said of it', async ({
  browser,
}) => {
  const page = await openAs(browser, 'Emil Rask');
  const id = await ids(page);
  const fatou = await openAs(browser, 'Fatou Diarra');
  await make(fatou, {
    title: 'Proofs',
    times: { startsAt: '2027-05-11T10:00', endsAt: '2027-05-11T12:00', zone: 'Europe/Oslo' },
  });
  await page.goto(address(`/plan?minutes=30&with=${id['Fatou Diarra']}`));
  await page.getByLabel('Start', { exact: true }).fill('10.30');
  await page.getByLabel('Start', { exact: true }).press('Enter');
  await page.getByLabel('Day', { exact: true }).fill('2027-05-11');
  await expect(page.getByText('Fatou Diarra: taken')).toBeVisible();
  await expect(page.getByTestId('ridge-2027-05-11')).toBeVisible();
  // Looking at other days keeps what is chosen, and what is known of it.
  await page.getByRole('button', { name: 'Later', exact: true }).click();
  await expect(page.getByTestId('ridge-2027-05-11')).toHaveCount(0);
  await expect(page.getByText('Fatou Diarra: taken')).toBeVisible();
});

test('the line-up is filled by pasting, from memory and by keys; who is silent is not free', async ({
  browser,
}) => {
  const page = await openAs(browser, 'Runa Fossheim', { path: '/plan' });
  const add = page.getByPlaceholder('Add a person, team or place');
  await add.focus();
  await expect(page.getByText('Met lately')).toBeVisible();
  await add.evaluate((field) => {
    const clipboardData = new DataTransfer();
    clipboardData.setData(
      'text',
      'Mika <mika.sandoval@ternrock.example>; jon@harbour.example; oops',
    );
    field.dispatchEvent(
      new ClipboardEvent('paste', { clipboardData, bubbles: true, cancelable: true }),
    );
  });
  await expect(lineUp(page)).toContainText('Mika Sandoval');
  await expect(lineUp(page)).toContainText('jon@harbour.example');
  await page.getByRole('list', { name: '1 name to look at' }).getByText('oops').waitFor();
  await page.getByRole('button', { name: 'Leave out oops' }).click();
  await expect(openings(page).getByRole('status')).toContainText(
    'jon@harbour.example shares nothing of when they are busy',
  );
  await choose(page.getByLabel('What is not known', { exact: true }), 'may be used, and is named');
  await expect(openings(page).getByRole('button').first()).toContainText('nothing known of');

  // One key sets aside and brings back, another makes optional.
  const mika = lineUp(page).getByRole('listitem').filter({ hasText: 'Mika Sandoval' });
  await mika.focus();
  await page.keyboard.press('Space');
  await expect(mika.getByRole('button', { name: 'Bring back Mika Sandoval' })).toBeVisible();
  await page.keyboard.press('x');
  await expect(mika.getByRole('button', { name: 'Set aside Mika Sandoval' })).toBeVisible();
  await page.keyboard.press('o');
  await expect(mika.getByRole('button', { name: 'Make Mika Sandoval required' })).toBeVisible();
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('Delete');
  await expect(lineUp(page)).not.toContainText('jon@harbour.example');

  await page.getByText('Remembered line-ups').click();
  await page.getByRole('button', { name: 'Remember this one' }).click();
  await page.getByLabel('A name for this line-up').fill('Array press');
  await page.getByRole('button', { name: 'Remember', exact: true }).click();
  await page.goto(address('/plan'));
  await add.focus();
  await page.locator('[cmdk-item]', { hasText: 'Array press' }).click();
  await expect(lineUp(page)).toContainText('Mika Sandoval');
  // Partners are known by what they publish, with its age.
  await addToLineUp(page, 'priya', 'Priya Raman');
  await expect(lineUp(page)).toContainText('shares busy times only, read just now');
});

test('Plan works with one thumb', async ({ browser }) => {
  const page = await openAs(browser, 'Grace Paul', {
    viewport: { width: 390, height: 844 },
    hasTouch: true,
    isMobile: true,
  });
  const id = await ids(page);
  await page.goto(address(`/plan?minutes=30&with=${id['Mika Sandoval']},${id['Declan Murphy']}`));
  await openings(page).getByRole('button').first().tap();
  await expect(
    page.getByRole('status').filter({ hasText: /Everyone and everything|outside working hours/ }),
  ).toBeVisible();
  // The ridge and the openings come first; who and what is folded above them.
  const board = (await page.getByRole('region', { name: 'When they are free' }).boundingBox())!;
  expect(board.y).toBeLessThanOrEqual(160);
  await page.getByRole('button', { name: '3 people' }).tap();
  await lineUp(page).getByRole('button', { name: 'Set aside Declan Murphy' }).tap();
  await expect(
    lineUp(page).getByRole('button', { name: 'Bring back Declan Murphy' }),
  ).toBeVisible();
  await page.getByRole('button', { name: 'Close', exact: true }).tap();
  await expect(page.getByRole('dialog')).toHaveCount(0);
  const wide = await page.evaluate(() => document.documentElement.scrollWidth);
  expect(wide).toBeLessThanOrEqual(390);
});
