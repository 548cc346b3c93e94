import { describe, expect, it } from 'vitest';
import type { EventDetail } from '../../contract/eventDetail.ts';
import { ledgerExportQuery, ledgerQuery, type LedgerResponse } from '../../contract/ledger.ts';
import { dateAt } from '../../core/time/wall.ts';
import type { PersonActor } from '../actions/index.ts';
import { readPage } from './pageQueries.ts';
import { readNamedBy } from './queries.ts';
import { ledgerPage, reading, refuseTooWide } from './service.ts';
import { bergenTimes, meetingRequest } from '../../../tests/support/requests.ts';
import { useServer } from '../../../tests/support/server.ts';

/* Bookings found by words: by what they are for, where and whose they are. */
const server = useServer({ works: false });
server.writesPastTheRules();

const address = (query: Record<string, string>) =>
  `/api/ledger?${new URLSearchParams(query).toString()}`;

/** Somebody who asks, for what is asked below the routes. */
async function actorOf(name: string): Promise<PersonActor> {
  const [row] = await server.sql<{ me: PersonActor['me'] }>(
    `select jsonb_build_object('id', subject_id, 'acts', '["see"]'::jsonb, 'keeps', null, 'zone', zone) as me
     from person where subject_id = $1`,
    [await server.id(name)],
  );
  return { kind: 'person', me: row!.me, principals: [row!.me.id], by: null };
}

describe('words', () => {
  it('find by the meetings that they name what they find by a look at each booking', async () => {
    const { pool, clock } = server.running.platform;
    const actor = await actorOf('Ines Aldabe');
    const query = ledgerQuery.parse({ whose: 'all', sort: 'title', limit: 200 });
    let found = 0;
    for (const q of ['kelp', 'gan', 'ines', 'review', 'a k', '100%', 'zzz']) {
      const named = await readNamedBy(pool, q);
      const read = (meetings: string[] | null) =>
        reading(pool, async (tx) => {
          const page = { after: null, limit: 200 };
          const asked = { ...query, q, named: { ...named, meetings } };
          return (await readPage(tx, actor, asked, page, clock.now())).rows;
        });
      const rows = await read(named.meetings);
      expect([q, rows]).toEqual([q, await read(null)]);
      if (named.meetings?.length) found += rows.length;
    }
    expect(found).toBeGreaterThan(10);
  });

  it('are not looked up where they are too short, or name too many meetings', async () => {
    const { pool } = server.running.platform;
    expect((await readNamedBy(pool, 'ke')).meetings).toBeNull();
    const { meetings } = await readNamedBy(pool, 'kelp');
    expect(meetings!.length).toBeGreaterThan(1);
    expect((await readNamedBy(pool, 'kelp', meetings!.length)).meetings).toHaveLength(
      meetings!.length,
    );
    expect((await readNamedBy(pool, 'kelp', meetings!.length - 1)).meetings).toBeNull();
  });

  it('find a date by a title of its own, and no other of its series', async () => {
    const clara = await server.as('clara.weiss');
    const made = await clara.post<EventDetail>(
      '/api/events',
      meetingRequest({
        title: 'Beach sweep',
        times: bergenTimes('2027-08-16T04:00', '2027-08-16T05:00'),
        repeats: { rule: 'FREQ=WEEKLY;COUNT=4' },
        attendees: [],
        resources: [await server.id('Puffin')],
      }),
    );
    expect(made.status).toBe(201);
    const changed = await clara.patch(`/api/events/${made.body.id}`, {
      version: 1,
      scope: 'one',
      occurrence: '2027-08-30T04:00',
      title: 'Harbour fair',
    });
    expect(changed.status).toBe(200);
    const starts = async (q: string) =>
      (
        await clara.get<LedgerResponse>(address({ q, whose: 'mine', from: '2027-08-01' }))
      ).body.rows.map((row) => dateAt(row.start, 'Europe/Oslo'));
    expect(await starts('harbour')).toEqual(['2027-08-30']);
    expect(await starts('beach')).toEqual(['2027-08-16', '2027-08-23', '2027-09-06']);
  });
});

it('what was given back is found where it was, also by what it was for, whenever its date is now', async () => {
  const clara = await server.as('clara.weiss');
  const made = await clara.post<EventDetail>(
    '/api/events',
    meetingRequest({
      title: 'Salinity rehearsal',
      times: bergenTimes('2027-08-14T04:00', '2027-08-14T05:00'),
      attendees: [],
      resources: [await server.id('Puffin')],
    }),
  );
  expect(made.status).toBe(201);
  await server.sql(
    `update reservation set state = 'released'
     where occurrence_id = (select id from occurrence where event_id = $1)`,
    [made.body.id],
  );
  await server.sql(
    `update occurrence set starts_at = starts_at + interval '9 days', ends_at = ends_at + interval '9 days'
     where event_id = $1`,
    [made.body.id],
  );
  const found = async (from: string, to: string) =>
    (
      await clara.get<LedgerResponse>(
        address({ q: 'salinity', state: 'released', whose: 'all', from, to }),
      )
    ).body.rows.map((row) => row.title);
  expect(await found('2027-08-14', '2027-08-14')).toEqual(['Salinity rehearsal']);
  expect(await found('2027-08-20', '2027-08-30')).toEqual([]);
});

it('words are looked for among so many at most, and how they get fewer is said', async () => {
  const { pool, clock } = server.running.platform;
  const actor = await actorOf('Mika Sandoval');
  const asked = (query: object, most: number) => {
    const whole = ledgerQuery.parse({ whose: 'all', limit: 60, ...query });
    return ledgerPage(pool, actor, whole, clock.now(), most);
  };
  for (const query of [
    { q: 'kelp' },
    { q: 'zz' },
    { q: 'kelp', sort: 'title' },
    { q: 'kelp', group: 'day' },
    { sort: 'title' },
    { sort: 'holder' },
    { group: 'title' },
    { group: 'holder', in: 'x' },
  ]) {
    await expect(asked(query, 3)).rejects.toMatchObject({
      code: 'too-many-bookings',
      message: expect.stringContaining('More than 3 bookings are not searched') as string,
      facts: { fields: [{ field: 'from', message: 'must leave at most 3 bookings' }] },
    });
    await expect(asked(query, 200_000)).resolves.toBeDefined();
    // What is in no such span is not counted.
    await expect(asked({ ...query, from: '2031-01-01' }, 0)).resolves.toMatchObject({ total: 0 });
  }
  // What words name nowhere is looked for among all there are.
  const nowhere = { q: 'nothing that there is' };
  await expect(asked(nowhere, 3)).resolves.toMatchObject({ total: 0 });
  // An index has these in order.
  for (const query of [{ sort: 'start' }, { group: 'site' }, { sort: 'place' }])
    await expect(asked(query, 3)).resolves.toBeDefined();
  // What is written out is bounded in the same way.
  const written = {
    ...ledgerExportQuery.parse({ whose: 'all', q: 'ke' }),
    named: await readNamedBy(pool, 'ke'),
  };
  await expect(refuseTooWide(pool, actor, written, clock.now(), 3)).rejects.toMatchObject({
    code: 'too-many-bookings',
  });
  await expect(refuseTooWide(pool, actor, written, clock.now())).resolves.toBeUndefined();
});
