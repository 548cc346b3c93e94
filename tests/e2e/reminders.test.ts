import { randomUUID } from 'node:crypto';
import { expect, test } from '@playwright/test';
import pg from 'pg';
import type { RemindersResponse } from '../../src/contract/reminders.ts';
import { hindrances } from './hindrances.ts';
import { address, openAs } from './support.ts';

/** The server's clock stands still; what came due in its last minutes is looked for once more. */
async function lookBack(minutes: number): Promise<void> {
  const client = new pg.Client(process.env.MARMOT_TEST_DATABASE);
  await client.connect();
  await client.query(
    `update setting set value = to_jsonb(value::text::float8 - $1::float8) where key = 'reminded-until'`,
    [minutes * 60_000],
  );
  await client.end();
}

test('reminders come over whatever is shown, and are put off and away', async ({ browser }) => {
  const page = await openAs(browser, 'Wanjiru Keele');
  for (const title of ['Tide gauge call', 'Tide gauge notes']) {
    const made = await page.request.post(address('/api/events'), {
      headers: { Origin: address(), 'Idempotency-Key': randomUUID() },
      data: {
        title,
        times: { startsAt: '2026-11-24T11:20', endsAt: '2026-11-24T11:50', zone: 'Africa/Nairobi' },
        reminders: [{ minutes: 9, means: 'popup' }],
      },
    });
    expect(made.status()).toBe(201);
  }
  await page.getByRole('link', { name: 'Places', exact: true }).click();
  await lookBack(5);
  const due = async () => {
    const answer = await page.request.get(address('/api/reminders'));
    return ((await answer.json()) as RemindersResponse).reminders.length;
  };
  await expect.poll(due).toBe(2);
  const reminders = page.getByRole('region', { name: 'Reminders' });
  await expect(reminders.getByRole('listitem')).toHaveCount(2);
  const call = reminders.getByRole('listitem').filter({ hasText: 'Tide gauge call' });
  await expect(call).toContainText('In 8 min');
  await expect(call).toContainText('11:20–11:50');
  expect(await hindrances(page, '[aria-label=Reminders]')).toEqual([]);

  // Another window shows them too, and they leave both.
  const other = await page.context().newPage();
  await other.goto(address('/people'));
  const there = other.getByRole('region', { name: 'Reminders' });
  await expect(there.getByRole('listitem')).toHaveCount(2);
  await call.getByRole('combobox', { name: /again/ }).click();
  await page.getByRole('option', { name: 'in 15 minutes' }).click();
  await expect(there.getByRole('listitem')).toHaveCount(1);
  await there.getByRole('button', { name: 'Dismiss the reminder of Tide gauge notes' }).click();
  await expect(there).toBeHidden();
  await expect(reminders).toBeHidden();
  await page.reload();
  await expect(page.getByRole('heading', { name: /^Places/ })).toBeVisible();
  await expect(reminders).toBeHidden();
});
