import { expect, test, type Page } from '@playwright/test';
import pg from 'pg';
import { Client } from '../support/client.ts';
import { address, addToLineUp, choose, openAs, placeInWords } from './support.ts';

/*
 * A coordinator's day: forty things done over calendar, Plan, replies and places, in two windows at
 * once, while those who are asked answer. What ought to be is kept beside it by hand; in the end the
 * database, the letters and both windows say the same.
 */

const WEEK = '2027-10-04';
const dayOf = (day: number) => `2027-10-0${3 + day}`;
const GUESTS = {
  Tomas: { name: 'Tomas Okafor', mailbox: 'tomas.okafor' },
  Mika: { name: 'Mika Sandoval', mailbox: 'mika.sandoval' },
  Clara: { name: 'Clara Weiss', mailbox: 'clara.weiss' },
  Hal: { name: 'Hal Teague', mailbox: 'hal.teague' },
};
type Guest = keyof typeof GUESTS;

/** What ought to be: of each thing its time, who is asked and has answered what, and what it holds. */
interface Expected {
  times: string[];
  replies: Partial<Record<Guest, string>>;
  places: string[];
  /** Letters with a calendar part that each guest has got. */
  letters: Record<string, number>;
}

const item = (page: Page, title: string) =>
  page.locator('[data-item]').filter({ hasText: new RegExp(`${title}$|${title} `) });
const panel = (page: Page) => page.getByRole('dialog');
/** A message stays for seconds only: it is waited for from before what brings it is done. */
const told = (page: Page, text: string) => expect(page.getByText(text).first()).toBeVisible();

async function meet(page: Page, title: string, day: number, [start, end]: string[], who: string[]) {
  await page.goto(address(`/calendar?date=${WEEK}`));
  await page.getByRole('button', { name: 'New event', exact: true }).click();
  await panel(page).getByLabel('Title').fill(title);
  await panel(page).getByLabel('Day', { exact: true }).fill(dayOf(day));
  await panel(page).getByLabel('Start', { exact: true }).fill(start!);
  await panel(page).getByLabel('End', { exact: true }).fill(end!);
  for (const name of who) {
    await panel(page)
      .getByRole('combobox', { name: /Add a person, team or place/ })
      .fill(name);
    await page
      .getByRole('option', { name: new RegExp(`^${name}`) })
      .first()
      .click();
    await expect(panel(page).getByRole('listitem').filter({ hasText: name }).first()).toBeVisible();
  }
}

/** Moves something by keys in the calendar, and tells whoever is asked. */
async function move(page: Page, title: string, keys: string[], guests: number) {
  await page.goto(address(`/calendar?date=${WEEK}`));
  await item(page, title).focus();
  for (const key of ['Space', ...keys, 'Enter']) await page.keyboard.press(key);
  const word = guests === 1 ? '1 person' : `${guests} people`;
  await Promise.all([
    told(page, `“${title}” is now`),
    page.getByRole('button', { name: `Move it and tell ${word}` }).click(),
  ]);
}

/** Saves a change of a meeting of which nobody is told. */
async function saveQuietly(page: Page) {
  await page.getByLabel(/^Tell .* about the change/).click();
  await page.getByRole('button', { name: 'Save without telling anyone' }).click();
}

async function bookPlace(page: Page, place: string, title: string, day: number, times: string[]) {
  await page.goto(address('/places?kind=all'));
  await page.getByLabel('Name, site or feature').fill(place);
  await page.getByRole('button', { name: new RegExp(`^${place}`) }).click();
  await panel(page).getByLabel('What for, if you like').fill(title);
  await panel(page).getByLabel('Day', { exact: true }).fill(dayOf(day));
  await panel(page).getByLabel('Start', { exact: true }).fill(times[0]!);
  await panel(page).getByLabel('End', { exact: true }).fill(times[1]!);
  await Promise.all([
    told(page, `${place} is yours`),
    panel(page)
      .getByRole('button', { name: `Book ${place}` })
      .click(),
  ]);
}

test('a coordinator’s day in two windows leaves database, letters and screens agreed', async ({
  browser,
}) => {
  test.setTimeout(400_000);
  const a = await openAs(browser, 'Anneke de Wit');
  a.context().setDefaultTimeout(Number(process.env.MARMOT_EXPECT_MS ?? 60_000));
  const b = await a.context().newPage();
  await b.goto(address(`/calendar?date=${WEEK}`));
  const sessions = new Map<Guest, Promise<Client>>();
  const as = (guest: Guest) => {
    let client = sessions.get(guest);
    if (!client)
      sessions.set(
        guest,
        (client = Client.signIn(address('').replace(/\/$/, ''), GUESTS[guest].mailbox)),
      );
    return client;
  };
  const world = new Map<string, Expected>();
  let done = 0;
  const act = async (work: () => Promise<unknown>) => {
    await work();
    done += 1;
  };
  const ids = new Map<string, string>();
  const idOf = async (title: string) => {
    const found = await a.request.get(
      address(`/api/calendar?from=${Date.parse('2027-10-01')}&to=${Date.parse('2027-11-01')}`),
    );
    for (const one of ((await found.json()) as { items: { title: string; eventId: string }[] })
      .items)
      ids.set(one.title, one.eventId);
    return ids.get(title)!;
  };
  const expected = (title: string) => world.get(title)!;
  const letter = (title: string, method: string, guests: readonly Guest[]) => {
    for (const guest of guests) {
      const key = `${method} ${guest}`;
      expected(title).letters[key] = (expected(title).letters[key] ?? 0) + 1;
    }
  };
  const asked = (title: string) => Object.keys(expected(title).replies) as Guest[];
  /** Everybody is asked anew, as whenever a time changes. */
  const askAnew = (title: string) => {
    for (const guest of asked(title)) expected(title).replies[guest] = 'needs-action';
    letter(title, 'REQUEST', asked(title));
  };

  // Four meetings, from either window; the other one sees each without being touched.
  const meetings: [string, number, string[], Guest[], string[]][] = [
    ['Tarn one', 1, ['09:00', '09:30'], ['Tomas', 'Mika'], []],
    ['Tarn two', 2, ['10:00', '11:00'], ['Mika', 'Clara'], []],
    ['Tarn three', 3, ['11:00', '12:00'], ['Tomas', 'Hal'], ['Gannet']],
    ['Tarn four', 4, ['13:00', '13:45'], ['Clara', 'Hal'], []],
  ];
  for (const [k, [title, day, times, guests, places]] of meetings.entries()) {
    const [here, there] = k % 2 ? [b, a] : [a, b];
    if (k === 0) await there.goto(address(`/calendar?date=${WEEK}`));
    await act(async () => {
      await meet(here, title, day, times, [...guests.map((one) => GUESTS[one].name), ...places]);
      await Promise.all([
        told(here, `“${title}” is sent to 2 people.`),
        panel(here)
          .getByRole('button', { name: /^Send to 2 people/ })
          .click(),
      ]);
    });
    await there.goto(address(`/calendar?date=${WEEK}`));
    await expect(item(there, title)).toBeVisible();
    world.set(title, {
      times: [`${dayOf(day)} ${times[0]}–${times[1]}`],
      replies: Object.fromEntries(guests.map((one) => [one, 'needs-action'])),
      places,
      letters: {},
    });
    letter(title, 'REQUEST', guests);
  }

  // They answer, two of them on their screens.
  const answer = (title: string, guest: Guest, reply: string) =>
    act(async () => {
      const { status } = await (
        await as(guest)
      ).post(`/api/invitations/${await idOf(title)}/reply`, { reply });
      expect(status).toBe(200);
      expected(title).replies[guest] = reply;
    });
  const tomas = await openAs(browser, 'Tomas Okafor');
  const waiting = tomas.getByRole('region', { name: 'Waits for your answer' });
  for (const [title, button, reply] of [
    ['Tarn one', /^Accept/, 'accepted'],
    ['Tarn three', /^Decline/, 'declined'],
  ] as const)
    await act(async () => {
      const row = waiting.getByRole('listitem').filter({ hasText: title });
      await row.getByRole('button', { name: button }).click();
      await expect(row).toHaveCount(0);
      expected(title).replies.Tomas = reply;
    });
  await answer('Tarn one', 'Mika', 'tentative');
  await answer('Tarn two', 'Mika', 'accepted');
  await answer('Tarn two', 'Clara', 'declined');
  await answer('Tarn three', 'Hal', 'accepted');
  await answer('Tarn four', 'Clara', 'accepted');
  await answer('Tarn four', 'Hal', 'accepted');
  await b.goto(address('/replies'));
  const card = async (page: Page, title: string) => {
    const found = page.getByRole('listitem').filter({ hasText: title }).first();
    // What is next comes first; further rows are drawn as they come into sight.
    await expect(async () => {
      await page.mouse.wheel(0, 500);
      await expect(found).toBeVisible({ timeout: 300 });
    }).toPass();
    return found;
  };
  await expect(await card(b, 'Tarn three')).toContainText('1 accepted, 0 tentative, 1 declined');

  // Two are moved, one from each window, and answered anew.
  await act(async () => {
    await move(a, 'Tarn one', ['ArrowDown', 'ArrowDown'], 2);
    expected('Tarn one').times = [`${dayOf(1)} 09:30–10:00`];
    askAnew('Tarn one');
  });
  await act(async () => {
    await move(b, 'Tarn two', ['ArrowRight', 'ArrowRight', 'ArrowRight'], 2);
    expected('Tarn two').times = [`${dayOf(5)} 10:00–11:00`];
    askAnew('Tarn two');
  });
  await expect(item(a, 'Tarn two')).toHaveAttribute('title', /Fri 8 Oct 10:00–11:00/);
  await answer('Tarn one', 'Mika', 'accepted');
  await answer('Tarn two', 'Clara', 'tentative');

  // The same meeting is changed in both windows: what each typed stands in the end.
  await act(async () => {
    await a.goto(address(`/calendar?date=${WEEK}&event=${await idOf('Tarn four')}`));
    await panel(a).getByRole('button', { name: 'Change', exact: true }).click();
    await placeInWords(panel(a), 'On the quay');
  });
  await act(async () => {
    await b.goto(address(`/events/${await idOf('Tarn four')}`));
    await b.getByLabel('Title', { exact: true }).fill('Tarn four, long');
    await Promise.all([told(b, '“Tarn four, long” is changed.'), saveQuietly(b)]);
  });
  await act(async () => {
    await expect(panel(a).getByText('Somebody else changed this')).toBeVisible();
    await expect(panel(a).getByRole('textbox', { name: 'Where, in words' })).toHaveValue(
      'On the quay',
    );
    await Promise.all([
      told(a, '“Tarn four, long” is changed.'),
      panel(a).getByRole('button', { name: 'Save and tell 2 people' }).click(),
    ]);
  });
  world.set('Tarn four, long', expected('Tarn four'));
  world.delete('Tarn four');
  letter('Tarn four, long', 'REQUEST', ['Clara', 'Hal']);

  // Places: four bookings, two given back, one of those taken back again.
  const bookings: [string, string, number, string[]][] = [
    ['Sonar kit', 'Tarn sonar', 1, ['14:00', '15:00']],
    ['Skua', 'Tarn talk', 2, ['14:00', '15:00']],
    ['Fulmar', 'Tarn call', 3, ['14:00', '15:00']],
    ['Gannet', 'Tarn slides', 4, ['14:00', '15:00']],
  ];
  for (const [k, [place, title, day, times]] of bookings.entries())
    await act(async () => {
      await bookPlace(k % 2 ? a : b, place, title, day, times);
      world.set(title, {
        times: [`${dayOf(day)} ${times[0]}–${times[1]}`],
        replies: {},
        places: [place],
        letters: {},
      });
    });
  for (const title of ['Tarn talk', 'Tarn call'])
    await act(async () => {
      await a.goto(address(`/calendar?date=${WEEK}`));
      await item(a, title).click();
      await panel(a).getByRole('button', { name: 'Cancel it' }).click();
      await expect(item(a, title)).toHaveCount(0);
    });
  await act(async () => {
    await a.locator('body').press('Control+z');
    await expect(item(a, 'Tarn call')).toBeVisible();
  });
  world.delete('Tarn talk');

  // Planned, and planned again for another time.
  await act(async () => {
    await b.goto(address('/plan'));
    await addToLineUp(b, 'tom', 'Tomas Okafor');
    await addToLineUp(b, 'clar', 'Clara Weiss');
    await b.getByLabel('Day', { exact: true }).fill(dayOf(3));
    await b.getByLabel('Start', { exact: true }).fill('15:30');
    await b.getByLabel('Length').fill('30');
    await b.getByLabel('Length').press('Enter');
    await expect(b.getByText('Wed 6 Oct 15:30–16:00').first()).toBeVisible();
    await b.getByLabel('Title of the meeting').fill('Tarn five');
    await b.getByRole('button', { name: 'Send to 2 people' }).click();
    await expect(b).toHaveURL(/replies/);
    world.set('Tarn five', {
      times: [`${dayOf(3)} 15:30–16:00`],
      replies: { Tomas: 'needs-action', Clara: 'needs-action' },
      places: [],
      letters: {},
    });
    letter('Tarn five', 'REQUEST', ['Tomas', 'Clara']);
  });
  await act(async () => {
    await (await card(b, 'Tarn five')).getByRole('link').click();
    await b.getByRole('link', { name: 'Another time for Tarn five' }).click();
    await b.getByLabel('Start', { exact: true }).fill('16');
    await b.getByLabel('Start', { exact: true }).press('Enter');
    await b.getByRole('button', { name: 'Move it, 2 to be told' }).click();
    await b.getByRole('button', { name: 'Move it and tell 2 people' }).click();
    await expect(b).toHaveURL(/calendar/);
    expected('Tarn five').times = [`${dayOf(3)} 16:00–16:30`];
    askAnew('Tarn five');
  });
  await answer('Tarn five', 'Tomas', 'accepted');
  await answer('Tarn five', 'Clara', 'accepted');

  // A series: one date moved in one window, one cancelled in the other.
  await act(async () => {
    await meet(a, 'Tarn six', 1, ['16:00', '16:30'], ['Hal Teague']);
    await panel(a).getByRole('button', { name: 'Repeat it' }).click();
    await choose(panel(a).getByLabel('Ends'), 'after a number of dates');
    await panel(a).getByLabel('How many times').fill('3');
    await Promise.all([
      told(a, '“Tarn six” is sent to 1 person.'),
      panel(a).getByRole('button', { name: 'Send to 1 person' }).click(),
    ]);
    world.set('Tarn six', {
      times: ['2027-10-04 16:00–16:30', '2027-10-11 16:00–16:30', '2027-10-18 16:00–16:30'],
      replies: { Hal: 'needs-action' },
      places: [],
      letters: {},
    });
    letter('Tarn six', 'REQUEST', ['Hal']);
  });
  await answer('Tarn six', 'Hal', 'accepted');
  await act(async () => {
    await b.goto(address('/calendar?date=2027-10-11'));
    await item(b, 'Tarn six').focus();
    for (const key of ['Space', 'ArrowRight', 'Enter']) await b.keyboard.press(key);
    await Promise.all([
      told(b, '“Tarn six” is now'),
      b.getByRole('button', { name: 'Move it and tell 1 person' }).click(),
    ]);
    expected('Tarn six').times[1] = '2027-10-12 16:00–16:30';
    letter('Tarn six', 'REQUEST', ['Hal']);
  });
  await act(async () => {
    await a.goto(address('/calendar?date=2027-10-18'));
    await item(a, 'Tarn six').click();
    await panel(a).getByRole('button', { name: 'Cancel it' }).click();
    await a.getByRole('button', { name: /Cancel it and tell 1 person/ }).click();
    await expect(item(a, 'Tarn six')).toHaveCount(0);
    expected('Tarn six').times.pop();
    letter('Tarn six', 'CANCEL', ['Hal']);
  });

  // One is cancelled, and is on again once it is taken back.
  await act(async () => {
    await b.goto(address(`/calendar?date=${WEEK}`));
    await item(b, 'Tarn one').click();
    await panel(b).getByRole('button', { name: 'Cancel it' }).click();
    await b.getByRole('button', { name: 'Cancel it and tell 2 people' }).click();
    await expect(item(b, 'Tarn one')).toHaveCount(0);
    letter('Tarn one', 'CANCEL', ['Tomas', 'Mika']);
  });
  await a.goto(address(`/calendar?date=${WEEK}`));
  await expect(item(a, 'Tarn one')).toHaveCount(0);
  await act(async () => {
    await b.locator('body').press('Control+z');
    await expect(item(b, 'Tarn one')).toBeVisible();
    letter('Tarn one', 'REQUEST', ['Tomas', 'Mika']);
  });
  await expect(item(a, 'Tarn one')).toBeVisible();
  // Bookings are moved and renamed like anything else; the room goes with its time.
  await act(async () => {
    await a.goto(address(`/events/${await idOf('Tarn sonar')}`));
    await a.getByLabel('Title', { exact: true }).fill('Tarn echo');
    await Promise.all([
      told(a, '“Tarn echo” is changed.'),
      a.getByRole('button', { name: 'Save', exact: true }).click(),
    ]);
    world.set('Tarn echo', expected('Tarn sonar'));
    world.delete('Tarn sonar');
  });
  await act(async () => {
    await b.goto(address(`/calendar?date=${WEEK}`));
    await item(b, 'Tarn slides').focus();
    for (const key of ['Space', 'ArrowLeft', 'Enter']) await b.keyboard.press(key);
    await told(b, '“Tarn slides” is now Wed 6 Oct 14:00–15:00.');
    expected('Tarn slides').times = [`${dayOf(3)} 14:00–15:00`];
  });
  // A room goes from one meeting to another, and somebody is asked as well; only they are told.
  await act(async () => {
    await a.goto(address(`/events/${await idOf('Tarn three')}`));
    await a.getByRole('button', { name: 'Leave Gannet out' }).click();
    await Promise.all([told(a, '“Tarn three” is changed.'), saveQuietly(a)]);
    expected('Tarn three').places = [];
  });
  await act(async () => {
    await b.goto(address(`/events/${await idOf('Tarn two')}`));
    const add = b.getByRole('combobox', { name: /Add a person, team or place/ });
    for (const name of ['Gannet', 'Hal Teague']) {
      await add.fill(name);
      await b
        .getByRole('option', { name: new RegExp(`^${name}`) })
        .first()
        .click();
      await expect(b.getByRole('button', { name: `Leave ${name} out` })).toBeVisible();
    }
    await b.getByLabel('only who is added or left out, 1').click();
    await Promise.all([
      told(b, '“Tarn two” is changed.'),
      b.getByRole('button', { name: 'Save and tell 1 person' }).click(),
    ]);
    expected('Tarn two').places = ['Gannet'];
    expected('Tarn two').replies.Hal = 'needs-action';
    letter('Tarn two', 'REQUEST', ['Hal']);
  });
  await answer('Tarn one', 'Tomas', 'accepted');
  await answer('Tarn three', 'Tomas', 'accepted');
  expect(done).toBeGreaterThanOrEqual(40);

  // The database: times, answers and places are those of the day, and everybody's claims with them.
  const database = new pg.Client(
    process.env.MARMOT_TEST_CLUSTER!.replace(/\/postgres$/, '/marmot_e2e'),
  );
  await database.connect();
  const { rows } = await database.query<{
    title: string;
    times: string[];
    replies: Record<string, string>;
    places: string[];
    claims: number;
    wanted: number;
  }>(
    `select event.title,
            array(select to_char(o.starts_at at time zone event.zone, 'YYYY-MM-DD HH24:MI') || '–' ||
                         to_char(o.ends_at at time zone event.zone, 'HH24:MI')
                  from occurrence o where o.event_id = event.id order by o.starts_at) as times,
            (select coalesce(jsonb_object_agg(split_part(subject.name, ' ', 1), reply), '{}')
             from attendee join subject on subject.id = person_id where event_id = event.id and role <> 'organizer') as replies,
            array(select distinct subject.name from reservation
                  join occurrence o on o.id = occurrence_id
                  join subject on subject.id = resource_id
                  where o.event_id = event.id and state = 'held') as places,
            (select count(*)::int from claim join occurrence o on o.id = occurrence_id
             where o.event_id = event.id and occupancy <> 'free') as claims,
            (select count(*)::int from occurrence o where o.event_id = event.id) as wanted
     from event where title like 'Tarn %' and status = 'confirmed'`,
  );
  expect(new Set(rows.map((one) => one.title))).toEqual(new Set(world.keys()));
  for (const row of rows) {
    const one = expected(row.title);
    expect(row.times, row.title).toEqual(one.times);
    if (row.title !== 'Tarn six') expect(row.replies, row.title).toEqual(one.replies);
    expect(row.places, row.title).toEqual(one.places);
    const coming = Object.values(one.replies).filter((reply) => reply !== 'declined').length;
    expect(row.claims, row.title).toBe(row.wanted * (1 + coming + one.places.length));
  }

  // The letters: each was told exactly what concerns them.
  const letters = await database.query<{ title: string; method: string; who: string; n: number }>(
    `select event.title, mail.method, split_part(mail.recipient_name, ' ', 1) as who, count(*)::int as n
     from mail join event on event.id = mail.event_id
     where event.title like 'Tarn %' and mail.method in ('REQUEST', 'CANCEL')
       and mail.recipient_email <> 'anneke.de.wit@ternrock.example'
     group by 1, 2, 3`,
  );
  await database.end();
  for (const [title, one] of world) {
    const sent = Object.fromEntries(
      letters.rows
        .filter((row) => row.title === title)
        .map((row) => [`${row.method} ${row.who}`, row.n]),
    );
    expect(sent, title).toEqual(one.letters);
  }

  // Both windows show it, and nothing else.
  const shown = async (page: Page) => {
    await page.goto(address(`/calendar?view=month&date=${WEEK}`));
    await expect(item(page, 'Tarn two')).toBeVisible();
    const titles = await page
      .locator('[data-item]', { hasText: 'Tarn' })
      .evaluateAll((items) => items.map((one) => one.getAttribute('title')));
    return titles.sort();
  };
  const screens = await Promise.all([shown(a), shown(b)]);
  expect(screens[0]).toEqual(screens[1]);
  expect(screens[0]).toHaveLength([...world.values()].flatMap((one) => one.times).length);
  await a.goto(address('/replies'));
  await expect(await card(a, 'Tarn five')).toContainText('2 accepted');
});
