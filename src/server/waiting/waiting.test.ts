import { describe, expect, it } from 'vitest';
import type { ProblemBody } from '../../contract/common.ts';
import type { NotificationsResponse } from '../../contract/notifications.ts';
import type { EventDetail } from '../../contract/eventDetail.ts';
import type { WaitedResponse } from '../../contract/waiting.ts';
import { HOUR } from '../../core/time/interval.ts';
import { meetingRequest } from '../../../tests/support/requests.ts';
import { useServer } from '../../../tests/support/server.ts';
import { serveWaiting } from './clockwork.ts';

/* Who waits for a place has it when it comes free: in the order in which they asked. */
const server = useServer({ works: false });
const wall = (instant: number) => new Date(instant).toISOString().slice(0, 16);
const setNow = (now: number) => (server.running.platform.clock.now = () => now);
const serve = () => serveWaiting(server.running.platform);

let days = 0;
async function taken(rules: Record<string, unknown> = {}) {
  const start = Date.UTC(2026, 11, 1 + 2 * days++, 9);
  setNow(start - 5 * HOUR);
  const [row] = await server.sql<{ id: number }>(
    `with made as (insert into subject (kind, name) values ('resource', 'Plover ' || $1::int) returning id)
     insert into resource (subject_id, kind, site_id, capacity, rules)
     select made.id, 'room', (select id from site where name = 'Skerry House'), 6, $2 from made
     returning subject_id as id`,
    [days, JSON.stringify(rules)],
  );
  const place = row!.id;
  const holder = await server.as('leila.haddad');
  const made = await holder.post<EventDetail>(
    '/api/events',
    meetingRequest({
      title: 'Slides',
      times: { startsAt: wall(start), endsAt: wall(start + 2 * HOUR), zone: 'UTC' },
      attendees: [],
      resources: [place],
    }),
  );
  expect(made.status).toBe(201);
  const free = () => holder.post(`/api/events/${made.body.id}/cancel`, { version: 1 });
  return { place, start, free };
}

async function wait(mailbox: string, placeId: number, start: number, more = {}) {
  const client = await server.as(mailbox);
  const answer = await client.post<{ id: number } & ProblemBody>('/api/waiting', {
    placeId,
    start,
    end: start + HOUR,
    wants: 'told',
    ...more,
  });
  return { ...answer, client };
}
const waitedBy = async (mailbox: string) =>
  (await (await server.as(mailbox)).get<WaitedResponse>('/api/waiting')).body.waiting;
const holdersOf = async (place: number) =>
  (
    await server.sql<{ name: string }>(
      `select subject.name from claim
       join occurrence on occurrence.id = claim.occurrence_id
       join event on event.id = occurrence.event_id
       join subject on subject.id = event.organizer_id
       where claim.subject_id = $1 order by lower(during)`,
      [place],
    )
  ).map((row) => row.name);
const letterTo = async (mailbox: string) => {
  const [row] = await server.sql<{ body_text: string }>(
    `select body_text from mail where recipient_email like $1 || '@%' order by created_at desc, id limit 1`,
    [mailbox],
  );
  // As one line: letters are broken for terminals.
  return row!.body_text.replace(/\s+/g, ' ');
};

describe('a place that is taken', () => {
  it('is held for whoever asked first once it is free, for an hour, and then for the next', async () => {
    const { place, start, free } = await taken();
    setNow(start - 4 * HOUR);
    const first = await wait('tomas.okafor', place, start, { title: 'Choir' });
    expect(first.status).toBe(201);
    setNow(start - 4 * HOUR + 1000);
    await wait('clara.weiss', place, start);
    expect(await waitedBy('clara.weiss')).toMatchObject([{ before: 1, offeredUntil: null }]);
    expect(await serve()).toEqual({ offered: 0, given: 0, over: 0 });
    await free();
    const servings = await Promise.all([serve(), serve()]);
    expect(servings.map((one) => one.offered).sort()).toEqual([0, 1]);
    const until = start - 3 * HOUR + 1000;
    expect(await waitedBy('tomas.okafor')).toMatchObject([{ offeredUntil: until, title: 'Choir' }]);
    expect(await holdersOf(place)).toEqual(['Tomas Okafor']);
    expect(await letterTo('tomas.okafor')).toMatch(/It is held for you until 07:00/);
    const tomas = await server.as('tomas.okafor');
    const { body: bell } = await tomas.get<NotificationsResponse>('/api/notifications');
    expect(bell.notifications[0]).toMatchObject({ what: 'place-offered', kind: 'places' });
    expect((await waitedBy('tomas.okafor'))[0]!.eventId).toBe(bell.notifications[0]!.eventId);
    setNow(until - 1000);
    expect(await serve()).toEqual({ offered: 0, given: 0, over: 0 });
    setNow(until);
    const late = await first.client.post<ProblemBody>(`/api/waiting/${first.body.id}/take`, {});
    expect(late.body.code).toBe('not-offered');
    expect(await serve()).toMatchObject({ offered: 1, over: 1 });
    expect(await letterTo('tomas.okafor')).toMatch(/went to whoever waits next/);
    expect(await serve()).toMatchObject({ offered: 0, over: 0 });
    expect(await holdersOf(place)).toEqual(['Clara Weiss']);
    const [offer] = await waitedBy('clara.weiss');
    const clara = await server.as('clara.weiss');
    const took = await clara.post<{ eventId: string }>(`/api/waiting/${offer!.id}/take`, {});
    expect(took.status).toBe(200);
    const { body: event } = await clara.get<EventDetail>(`/api/events/${took.body.eventId}`);
    expect(event).toMatchObject({ status: 'confirmed', resources: [{ id: place }] });
    expect(await waitedBy('clara.weiss')).toEqual([]);
    setNow(until + 2 * HOUR);
    expect(await serve()).toEqual({ offered: 0, given: 0, over: 0 });
    expect(await holdersOf(place)).toEqual(['Clara Weiss']);
  });

  it('is theirs at once who want it so, and let go leaves it to the next', async () => {
    const { place, start, free } = await taken();
    setNow(start - 4 * HOUR);
    const first = await wait('tomas.okafor', place, start);
    setNow(start - 4 * HOUR + 1000);
    await wait('hal.teague', place, start, { wants: 'given' });
    await free();
    expect(await serve()).toMatchObject({ offered: 1, given: 0 });
    expect((await first.client.request('DELETE', `/api/waiting/${first.body.id}`)).status).toBe(
      200,
    );
    expect(await holdersOf(place)).toEqual([]);
    expect(await serve()).toMatchObject({ offered: 0, given: 1 });
    expect(await holdersOf(place)).toEqual(['Hal Teague']);
    expect(await letterTo('hal.teague')).toMatch(/is booked for you/);
    expect(await waitedBy('hal.teague')).toEqual([]);
  });

  it('is waited for until its time begins, and not against its rules', async () => {
    const { place, start, free } = await taken({ longestMinutes: 180 });
    setNow(start - 4 * HOUR);
    await wait('tomas.okafor', place, start);
    await wait('clara.weiss', place, start, { wants: 'given' });
    await server.sql(`update resource set rules = '{"longestMinutes": 30}' where subject_id = $1`, [
      place,
    ]);
    await free();
    // By now it is for half an hour at most: nobody has it, and both are told.
    expect(await serve()).toMatchObject({ offered: 0, given: 0, over: 1 });
    expect(await serve()).toMatchObject({ over: 1 });
    expect(await holdersOf(place)).toEqual([]);
    expect(await letterTo('clara.weiss')).toMatch(
      /is free again, but not for you\. .*30 min at most/,
    );
    const orphans = await server.sql(
      `select 1 from event where title like 'Plover % booked' and status = 'confirmed'
       and not exists (select 1 from event_resource where event_id = event.id)`,
    );
    expect(orphans).toEqual([]);

    const other = await taken();
    await wait('tomas.okafor', other.place, other.start);
    setNow(other.start);
    expect(await serve()).toMatchObject({ over: 1 });
    expect(await letterTo('tomas.okafor')).toMatch(/did not come free/);
    expect(await waitedBy('tomas.okafor')).toEqual([]);
  });

  it('is waited for by whoever is here, for what is taken and to come, once', async () => {
    const { place, start, free } = await taken();
    setNow(start - 4 * HOUR);
    expect((await wait('tomas.okafor', place, start + 3 * HOUR)).body.code).toBe('free-already');
    const past = await wait('tomas.okafor', place, start - 5 * HOUR);
    expect(past.body.fields?.[0]?.field).toBe('start');
    expect((await wait('tomas.okafor', place, start)).status).toBe(201);
    expect((await wait('tomas.okafor', place, start)).body.code).toBe('waits-already');
    // Of somebody who left nothing is held.
    const [leaver] = await server.sql<{ id: number }>(
      `with made as (insert into subject (kind, name) values ('person', 'Nobody Here') returning id)
       insert into person (subject_id, organization_id, email, zone)
       select made.id, (select min(id) from organization), 'nobody@ternrock.example', 'UTC' from made
       returning subject_id as id`,
    );
    await server.sql(
      `insert into waiting (resource_id, person_id, starts_at, ends_at, title, wants, asked_at)
       values ($1, $2, $3, $4, '', 'given', $5)`,
      [place, leaver!.id, new Date(start), new Date(start + HOUR), new Date(0)],
    );
    await server.sql('delete from person where subject_id = $1', [leaver!.id]);
    await free();
    expect(await serve()).toMatchObject({ offered: 1, given: 0 });
    expect(await holdersOf(place)).toEqual(['Tomas Okafor']);
  });
});
