import { PARTNER_SITE, SITES } from '../../demo/data/organization.ts';
import type { SessionState } from '../../src/contract/session.ts';
import type { CalendarResponse } from '../../src/contract/calendar.ts';
import {
  expect,
  test,
  type Browser,
  type BrowserContext,
  type BrowserContextOptions,
  type Locator,
  type Page,
} from '@playwright/test';

export const address = (path = '/') => `${process.env.MARMOT_TEST_ADDRESS}${path}`;

/** In which test a browser of one's own was opened. */
const openedIn = new WeakMap<BrowserContext, string>();

/** Closes what former tests left open: it would go on listening, and reading anew, until the last of them. */
async function closeFormer(browser: Browser): Promise<void> {
  const former = browser
    .contexts()
    .filter((one) => openedIn.has(one) && openedIn.get(one) !== test.info().testId);
  await Promise.all(former.map((one) => one.close()));
}

/** What the demonstration's people sign in with. */
const PASSWORD = 'tern-rock';

/**
 * Opens a browser of one's own for a person of the demonstration, who is signed in: what the page before that
 * looks like has tests of its own, and takes as long as any other.
 * @param path what is shown first; Today unless said
 */
export async function openAs(
  browser: Browser,
  name: string,
  { path = '/', ...options }: BrowserContextOptions & { path?: string } = {},
): Promise<Page> {
  await closeFormer(browser);
  const state = (await (await fetch(address('/api/session'))).json()) as SessionState;
  const person = state.demonstration!.people.find((one) => one.name.startsWith(name))!;
  const site = [...SITES, PARTNER_SITE].find((one) => one.city === person.site);
  // Their computers stand where they are.
  const context = await browser.newContext({ timezoneId: site?.zone, ...options });
  openedIn.set(context, test.info().testId);
  const signedIn = await context.request.post(address('/api/session'), {
    data: { email: person.email, password: PASSWORD },
  });
  expect(signedIn.status()).toBe(204);
  const page = await context.newPage();
  await page.goto(address(path));
  if (path === '/')
    await expect(page.getByRole('heading', { name: /November 2026/ })).toBeVisible();
  return page;
}

/** Adds somebody or something to the line-up by a part of the name. */
export async function addToLineUp(page: Page, part: string, name: string): Promise<void> {
  await page.getByPlaceholder('Add a person, team or place').fill(part);
  await page.locator('[cmdk-item]', { hasText: name }).first().click();
  await expect(page.getByRole('region', { name: 'Line-up' }).getByText(name)).toBeVisible();
}

/** Chooses an option of a select, which opens beside it. */
export async function choose(select: Locator, option: string | RegExp): Promise<void> {
  await select.click();
  const listed = select
    .page()
    .getByRole('option', { name: option, exact: typeof option === 'string' });
  await listed.click();
  await expect(listed).toBeHidden();
}

/** The events of a title in my calendar over a year, as the server has them. */
export async function eventsNamed(page: Page, title: string) {
  const from = Date.UTC(2026, 10, 1);
  const answer = await page.request.get(
    address(`/api/calendar?from=${from}&to=${from + 400 * 86_400_000}`),
  );
  const { items } = (await answer.json()) as CalendarResponse;
  return items.filter((one) => one.title === title);
}

/** Makes an event as whoever is signed in. @returns its id */
export async function makeEvent(page: Page, request: object): Promise<string> {
  return page.evaluate(async (body) => {
    const answer = await fetch('/api/events', {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify(body),
    });
    if (answer.status !== 201) throw new Error(await answer.text());
    return ((await answer.json()) as { id: string }).id;
  }, request);
}

/** The id of the first person or place that is found by a name. */
export const idOf = (page: Page, name: string): Promise<number> =>
  page.evaluate(async (q) => {
    const answer = await fetch(`/api/search?q=${encodeURIComponent(q)}`);
    const { found } = (await answer.json()) as { found: { id: number }[] };
    return found[0]!.id;
  }, name);

/** Says where an event is in words that are nobody's name, in a form that asks for people and places in one field. */
export async function placeInWords(scope: Page | Locator, words: string): Promise<void> {
  await scope.getByRole('combobox', { name: 'Add a person, team or place' }).fill(words);
  await scope.getByRole('option', { name: /where it is, in words/ }).click();
  await expect(scope.getByRole('textbox', { name: 'Where, in words' })).toHaveValue(words);
}
