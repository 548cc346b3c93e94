import { expect, test, type Browser, type Locator, type Page } from '@playwright/test';
import type { PlacesResponse } from '../../src/contract/places.ts';
import { address, idOf, makeEvent, openAs } from './support.ts';

/** What somebody does: clicks, keys that act, fields filled, drags; each is one. */
class Hand {
  count = 0;
  constructor(
    readonly page: Page,
    private readonly touch = false,
  ) {}

  async press(what: Locator): Promise<void> {
    this.count++;
    await (this.touch ? what.tap() : what.click());
  }
  async fill(what: Locator, text: string): Promise<void> {
    this.count++;
    await what.fill(text);
  }
  async key(name: string): Promise<void> {
    this.count++;
    await this.page.keyboard.press(name);
  }
  async drag(what: Locator, by: { x: number; y: number }): Promise<void> {
    this.count++;
    const box = (await what.boundingBox())!;
    const [x, y] = [box.x + box.width / 2, box.y + box.height / 2];
    await this.page.mouse.move(x, y);
    await this.page.mouse.down();
    await this.page.mouse.move(x + by.x, y + by.y, { steps: 6 });
    await this.page.mouse.up();
  }
}

const PHONE = { viewport: { width: 390, height: 844 }, hasTouch: true, isMobile: true };
/** A phone may take so many more. */
const MORE_ON_A_PHONE = 2;

for (const phone of [false, true]) {
  const where = phone ? ', on a phone' : '';
  const most = (actions: number) => actions + (phone ? MORE_ON_A_PHONE : 0);
  const open = (browser: Browser, name: string) => openAs(browser, name, phone ? PHONE : {});

  test(`from a sentence to a sent invitation of five with nothing free: ${most(5)}${where}`, async ({
    browser,
  }) => {
    const page = await open(browser, 'Ines Aldabe');
    const hand = new Hand(page, phone);
    if (phone) await hand.press(page.getByRole('button', { name: 'Find, or say a meeting' }));
    const field = page.getByRole('combobox', { name: /Find a person, a place or a view/ });
    await hand.fill(
      field,
      `ice call ${phone ? 'again ' : ''}with Mika, Tomas, Clara, Wanjiru and Hal Teague 30m`,
    );
    await hand.key('Enter');
    await expect(page.getByText(/working hours never overlap|No time in these days/)).toBeVisible();
    // Conceding and choosing its best time is one click.
    await hand.press(
      page
        .getByRole('region', { name: 'What would help' })
        .getByRole('button', { name: /and choose/ })
        .first(),
    );
    await hand.press(page.getByRole('button', { name: /^Send to \d people/ }));
    await expect(page.getByText(/^Sent to \d people/).first()).toBeVisible();
    expect(hand.count).toBeLessThanOrEqual(most(5));
  });

  test(`a meeting with a room from the calendar: ${most(4)}${where}`, async ({ browser }) => {
    const page = await open(browser, 'Ines Aldabe');
    await page.goto(address(`/calendar?view=days&days=3&date=2027-04-0${phone ? 6 : 7}`));
    const hand = new Hand(page, phone);
    if (phone) await hand.press(page.getByRole('button', { name: 'New event', exact: true }));
    else {
      await expect(page.locator('[data-day="1"]')).toBeVisible();
      await hand.drag(page.locator('[data-day="1"]'), { x: 0, y: 40 });
    }
    const panel = page.getByRole('dialog', { name: 'New event' });
    await hand.fill(panel.getByLabel('Title'), phone ? 'Rope talk' : 'Rope walk');
    await hand.press(panel.getByRole('button', { name: / seats$/ }).first());
    await hand.press(panel.getByRole('button', { name: /^Hold / }));
    await expect(
      page.getByText(`“${phone ? 'Rope talk' : 'Rope walk'}” is in your calendar.`).first(),
    ).toBeVisible();
    expect(hand.count).toBeLessThanOrEqual(most(4));
  });

  test(`moving a meeting and telling: ${most(2)}${where}`, async ({ browser }) => {
    const page = await open(browser, 'Leila Haddad');
    const day = phone ? '2027-05-11' : '2027-05-12';
    const title = phone ? 'Winch oil' : 'Winch service';
    await makeEvent(page, {
      title,
      times: { startsAt: `${day}T10:00`, endsAt: `${day}T11:00`, zone: 'Europe/Oslo' },
      attendees: [{ personId: await idOf(page, 'Tomas Okafor'), role: 'required' }],
    });
    await page.goto(address(`/calendar?view=days&days=3&date=${day}`));
    const item = page.locator('[data-item]', { hasText: title });
    await expect(item).toBeVisible();
    const hand = new Hand(page, phone);
    if (phone) {
      // A moment's press and a pull, as a finger does it.
      hand.count++;
      const box = (await item.boundingBox())!;
      const touch = await page.context().newCDPSession(page);
      const at = (dy: number) => ({ x: box.x + box.width / 2, y: box.y + 12 + dy });
      const send = (type: 'touchStart' | 'touchMove' | 'touchEnd', dy: number) =>
        touch.send('Input.dispatchTouchEvent', {
          type,
          touchPoints: type === 'touchEnd' ? [] : [at(dy)],
        });
      await send('touchStart', 0);
      await expect(page.locator('[data-statement]')).toBeVisible();
      for (const dy of [10, 25, 45]) await send('touchMove', dy);
      await send('touchEnd', 0);
    } else await hand.drag(item, { x: 0, y: 45 });
    await hand.press(page.getByRole('button', { name: 'Move it and tell 1 person' }));
    await expect(item).toHaveAttribute('title', /1[01]:(00|15|30|45)–1[12]:/);
    await expect(item).not.toHaveAttribute('title', /10:00–11:00/);
    await expect(page.getByRole('alertdialog')).toHaveCount(0);
    expect(hand.count).toBeLessThanOrEqual(most(2));
  });

  test(`answering from Today: ${most(1)}${where}`, async ({ browser }) => {
    const asking = await openAs(browser, 'Ines Aldabe');
    const title = phone ? 'Drift notes' : 'Drift log';
    await makeEvent(asking, {
      title,
      times: { startsAt: '2027-05-20T10:00', endsAt: '2027-05-20T11:00', zone: 'Europe/Oslo' },
      attendees: [{ personId: await idOf(asking, 'Nadia Petrov'), role: 'required' }],
    });
    const page = await open(browser, 'Nadia Petrov');
    const row = page
      .getByRole('region', { name: 'Waits for your answer' })
      .getByRole('listitem')
      .filter({ hasText: title });
    const hand = new Hand(page, phone);
    await hand.press(row.getByRole('button', { name: /^Accept/ }));
    await expect(row).toHaveCount(0);
    expect(hand.count).toBeLessThanOrEqual(most(1));
  });

  test(`asking somebody as well, beside the open meeting: ${most(3)}${where}`, async ({
    browser,
  }) => {
    const page = await open(browser, 'Leila Haddad');
    const title = phone ? 'Moss walk' : 'Moss talk';
    const day = phone ? '2027-05-13' : '2027-05-14';
    await makeEvent(page, {
      title,
      times: { startsAt: `${day}T10:00`, endsAt: `${day}T11:00`, zone: 'Europe/Oslo' },
      attendees: [{ personId: await idOf(page, 'Tomas Okafor'), role: 'required' }],
    });
    await page.goto(address(`/calendar?view=days&days=3&date=${day}`));
    await page.locator('[data-item]', { hasText: title }).click();
    const hand = new Hand(page, phone);
    const add = page.getByRole('combobox', { name: 'Ask somebody as well' });
    await expect(add).toBeVisible();
    await hand.fill(add, 'mika sand');
    await expect(page.getByRole('option', { name: /Mika Sandoval/ })).toBeVisible();
    await hand.key('Enter');
    await hand.press(page.getByRole('button', { name: 'Ask Mika Sandoval' }));
    await expect(page.getByRole('dialog').getByRole('listitem')).toContainText([
      'Leila Haddad',
      'Mika Sandoval',
      'Tomas Okafor',
    ]);
    expect(hand.count).toBeLessThanOrEqual(most(3));
  });

  test(`taking a time that was asked for: ${most(2)}${where}`, async ({ browser }) => {
    const page = await open(browser, 'Clara Weiss');
    const title = phone ? 'Diatom count' : 'Diatom list';
    const day = phone ? '2027-05-20' : '2027-05-21';
    const hour = (n: number) => Date.parse(`${day}T00:00Z`) + n * 3_600_000;
    const id = await makeEvent(page, {
      title,
      times: { startsAt: `${day}T10:00`, endsAt: `${day}T11:00`, zone: 'Europe/Oslo' },
      attendees: [{ personId: await idOf(page, 'Hal Teague'), role: 'required' }],
    });
    const hal = await openAs(browser, 'Hal Teague');
    const asked = await hal.request.put(address(`/api/invitations/${id}/proposals`), {
      headers: { Origin: address(), 'Idempotency-Key': `asked-${id}` },
      data: { times: [{ start: hour(12), end: hour(13) }] },
    });
    expect(asked.status()).toBe(200);
    await page.goto(address('/replies'));
    const hand = new Hand(page, phone);
    await hand.press(page.getByRole('link', { name: new RegExp(title) }));
    const answers = page.getByRole('article', { name: title });
    const times = answers.getByRole('region', { name: 'Other times asked for' });
    await hand.press(
      times
        .getByRole(phone ? 'listitem' : 'row')
        .filter({ hasText: 'from Hal' })
        .getByRole('button', { name: /^Take it/ }),
    );
    await expect(times).toBeHidden();
    const moved = await page.request.get(address(`/api/events/${id}`));
    expect(((await moved.json()) as { start: number }).start).toBe(hour(12));
    expect(hand.count).toBeLessThanOrEqual(most(2));
  });

  test(`reminding everybody who is silent: ${most(1)}${where}`, async ({ browser }) => {
    const page = await open(browser, 'Leila Haddad');
    const title = phone ? 'Algae count' : 'Algae list';
    const id = await makeEvent(page, {
      title,
      times: { startsAt: '2027-05-18T10:00', endsAt: '2027-05-18T11:00', zone: 'Europe/Oslo' },
      attendees: [
        { personId: await idOf(page, 'Tomas Okafor'), role: 'required' },
        { personId: await idOf(page, 'Mika Sandoval'), role: 'required' },
      ],
    });
    await page.goto(address(`/replies?meeting=${id}`));
    const answers = page.getByRole('article', { name: title });
    await expect(answers.getByRole('region', { name: 'Silent' })).toContainText('asked just now');
    const hand = new Hand(page, phone);
    await hand.press(answers.getByRole('button', { name: 'Nudge 2' }));
    await expect(answers.getByRole('button', { name: 'All reminded today' })).toBeDisabled();
    await expect(answers.getByRole('region', { name: 'Silent' })).toContainText('nudged just now');
    expect(hand.count).toBeLessThanOrEqual(most(1));
  });
}

const BOARD_DAY = '2027-03-11';

/** Where an hour stands in a place's lane of the board, between 7 and 20 o'clock. */
async function onBoard(page: Page, place: string, hour: number) {
  const box = (await page.locator(`[data-lane][aria-label^="${place}:"]`).boundingBox())!;
  return { x: box.x + ((hour - 7) / 13) * box.width, y: box.y + box.height / 2 };
}

async function dragOnBoard(hand: Hand, from: [string, number], to: [string, number]) {
  const [start, end] = [await onBoard(hand.page, ...from), await onBoard(hand.page, ...to)];
  const lane = hand.page.locator(`[data-lane][aria-label^="${from[0]}:"]`);
  const box = (await lane.boundingBox())!;
  hand.count++;
  await hand.page.mouse.move(start.x, box.y + box.height / 2);
  await hand.page.mouse.down();
  await hand.page.mouse.move(end.x, end.y, { steps: 6 });
  await hand.page.mouse.up();
}

test('a room without a meeting: 4; into another room 1, longer 1, given back 2', async ({
  browser,
}) => {
  const page = await openAs(browser, 'Nadia Petrov');
  const hand = new Hand(page);
  await hand.press(page.getByRole('link', { name: 'Places', exact: true }));
  await hand.press(page.getByRole('radio', { name: 'Board' }));
  await expect(page.locator('[data-lane]').first()).toBeVisible();
  await page.goto(address(`/places/board?date=${BOARD_DAY}`));
  await expect(page.locator('[data-lane]').first()).toBeVisible();
  await dragOnBoard(hand, ['Puffin', 11.05], ['Puffin', 12.4]);
  await hand.press(page.getByRole('button', { name: 'Book Puffin' }));
  await expect(page.getByText(/^Puffin is yours, Thu 11 Mar 11:00–12:30/).first()).toBeVisible();
  expect(hand.count).toBe(4);

  const bar = (place: string) =>
    page
      .locator(`[data-lane][aria-label^="${place}:"] [data-booking]`)
      .filter({ hasText: /(Puffin|Guillemot) booked/ });
  await expect(bar('Puffin')).toBeVisible();
  hand.count = 0;
  await dragOnBoard(hand, ['Puffin', 11.7], ['Guillemot', 11.7]);
  await expect(bar('Guillemot')).toBeVisible();
  expect(hand.count).toBe(1);

  hand.count = 0;
  await dragOnBoard(hand, ['Guillemot', 12.49], ['Guillemot', 13]);
  await expect(page.getByText(/is now Thu 11 Mar 11:00–13:00/).first()).toBeVisible();
  expect(hand.count).toBe(1);

  hand.count = 0;
  await hand.press(bar('Guillemot'));
  await hand.press(page.getByRole('dialog').getByRole('button', { name: 'Cancel it' }));
  await expect(bar('Guillemot')).toHaveCount(0);
  expect(hand.count).toBe(2);
});

for (const phone of [false, true]) {
  test(`a desk with two features on Thursday: ${phone ? '5 from Today, on a phone' : '4'}`, async ({
    browser,
  }) => {
    const page = await openAs(
      browser,
      phone ? 'Oskar Lindqvist' : 'Leila Haddad',
      phone ? PHONE : {},
    );
    const hand = new Hand(page, phone);
    if (phone) await hand.press(page.getByRole('button', { name: 'Find, or say a meeting' }));
    const field = page.getByRole('combobox', { name: /Find a person, a place or a view/ });
    await hand.fill(field, 'desk with standing desk and window on Thursday');
    await hand.key('Enter');
    const offer = page.getByRole('button', { name: /^Book .*: Desk/ }).first();
    const name = /: (Desk \w+)/.exec((await offer.getAttribute('aria-label'))!)![1]!;
    await hand.press(offer);
    await expect(page.getByText(new RegExp(`^${name} is yours, Thu 26 Nov`)).first()).toBeVisible();
    expect(hand.count).toBeLessThanOrEqual(phone ? 5 : 4);
    const { places } = (await (
      await page.request.get(address('/api/places?kind=desk&limit=200'))
    ).json()) as PlacesResponse;
    const desk = places.find((one) => one.name === name)!;
    expect(desk.features).toEqual(expect.arrayContaining(['standing desk', 'window']));
  });
}
