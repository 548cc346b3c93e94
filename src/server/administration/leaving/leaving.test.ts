import { beforeAll, describe, expect, it } from 'vitest';
import type { ChangesUndone } from '../../../contract/changes.ts';
import type { ProblemBody } from '../../../contract/common.ts';
import type { EventDetail } from '../../../contract/eventDetail.ts';
import type { Fate, Holdings, Left } from '../../../contract/leaving.ts';
import type { Client } from '../../../../tests/support/client.ts';
import { meetingRequest } from '../../../../tests/support/requests.ts';
import { useServer } from '../../../../tests/support/server.ts';

const server = useServer();
let admin: Client;
beforeAll(async () => {
  admin = await server.as('aksel.nordvik');
});

const holdingsOf = async (id: number, query = '') =>
  (await admin.get<Holdings>(`/api/administration/people/${id}/holdings${query}`)).body;

async function letLeave(
  id: number,
  meetings: Fate,
  given: object = {},
  bookings: Fate = { end: true },
) {
  const held = await holdingsOf(id);
  return admin.post<Left & ProblemBody>(`/api/administration/people/${id}/leave`, {
    version: held.person.version,
    seen: { meetings: held.meetings.length, bookings: held.bookings.length },
    meetings,
    bookings,
    ...given,
  });
}

const undo = (...changes: number[]) =>
  admin.post<ChangesUndone & ProblemBody>('/api/changes/undo', { changes });

/** All that names somebody, as single facts: who comes to what and when, what is booked, and what was given. */
async function namedIn(id: number) {
  const rows = await server.sql<{ fact: string; start: number | null }>(
    `select concat_ws(' ', 'comes', event.title, reply.role, reply.reply) as fact, occurrence.starts_at as start
     from effective_reply reply join occurrence on occurrence.id = reply.occurrence_id
     join event on event.id = occurrence.event_id where reply.person_id = $1 and event.status = 'confirmed'
     union all
     select concat_ws(' ', 'taken', lower(during), occupancy), starts_at
     from claim join occurrence on occurrence.id = claim.occurrence_id where subject_id = $1
     union all
     select concat_ws(' ', 'has', subject.name, state), starts_at
     from reservation join subject on subject.id = resource_id where holder_id = $1 and state <> 'released'
     union all
     select concat_ws(' ', 'organizes', event.title), occurrence.starts_at
     from event join occurrence on occurrence.event_id = event.id
     where organizer_id = $1 and status = 'confirmed'
     union all
     select 'to be asked to ' || title, starts_at at time zone zone from event
     where status = 'confirmed' and draft->'invited' @> jsonb_build_array(jsonb_build_object('personId', $1::int))
     union all select 'acts for ' || principal_id, null::timestamptz from delegate where delegate_id = $1
     union all select 'lets act ' || delegate_id, null from delegate where principal_id = $1
     union all select 'has the desk ' || subject_id, null from resource where owner_id = $1
     union all select 'waits for ' || resource_id, null from waiting where person_id = $1
     union all select 'leads ' || id, null from team where lead_id = $1
     union all select 'is in ' || team_id, null from team_member where person_id = $1`,
    [id],
  );
  const now = server.running.platform.clock.now();
  const part = (keeps: (start: number | null) => boolean) =>
    rows
      .filter((one) => keeps(one.start))
      .map((one) => `${one.start} ${one.fact}`)
      .sort();
  const ahead = (start: number | null) => start === null || start >= now;
  return {
    past: part((start) => !ahead(start)).filter((one) => !one.includes('organizes')),
    future: part(ahead),
  };
}

const letters = async (to: string, after: readonly string[] = []) =>
  server.sql<{ id: string; body: string }>(
    `select id, body_text as body from mail
     where recipient_email like $1 || '@%' and subject like '%has left%' and id <> all($2::uuid[])`,
    [to, after],
  );

describe('leaving', () => {
  it('shows in numbers and one by one what somebody has, with titles as far as they are shared', async () => {
    const id = await server.id('Leila Haddad');
    const held = await holdingsOf(id);
    expect(held.meetings.length).toBeGreaterThan(0);
    const rows = await server.sql<{ count: number }>(
      `select count(distinct event.id)::int as count from event
       join occurrence on occurrence.event_id = event.id and occurrence.starts_at >= $2
       where organizer_id = $1 and status = 'confirmed'
         and not exists (select from occurrence_override own where own.event_id = event.id
                           and own.recurrence_at = occurrence.recurrence_at and own.cancelled_at is not null)
         and (exists (select from attendee where event_id = event.id and role <> 'organizer')
              or jsonb_array_length(draft->'invited') > 0)`,
      [id, new Date(server.running.platform.clock.now())],
    );
    expect(held.meetings.length).toBe(rows[0]!.count);
    for (const one of held.meetings) expect(one.to).toBeNull();
  });

  it('takes nothing of what is over and leaves nothing of what is to come; taken back, all is as it was', async () => {
    const staff = await server.sql<{ id: number; name: string }>(
      `select subject_id as id, subject.name from person join subject on subject.id = subject_id
       join organization on organization.id = organization_id and is_home
       where account = 'active' and role = 'staff' order by subject_id`,
    );
    const heir = await server.id('Tomas Okafor');
    let handed = 0;
    for (const [k, { id, name }] of staff.entries()) {
      if (id === heir || k % 3 !== 0) continue;
      const before = await namedIn(id);
      const fate: Fate = k % 2 === 0 ? { to: { personId: heir } } : { end: true };
      const done = await letLeave(
        id,
        fate,
        {},
        k % 4 === 0 ? { to: { personId: heir } } : { end: true },
      );
      expect(done.status, `${name}: ${JSON.stringify(done.body)}`).toBe(200);
      handed += done.body.handedOver;
      const after = await namedIn(id);
      expect(after.future, name).toEqual([]);
      expect(
        [
          before.past.filter((one) => !after.past.includes(one)),
          after.past.filter((one) => !before.past.includes(one)),
        ],
        name,
      ).toEqual([[], []]);
      expect(after.past, name).toHaveLength(before.past.length);
      const back = await undo(done.body.change);
      expect(back.status, `${name}: ${JSON.stringify(back.body)}`).toBe(200);
      expect(back.body.left, name).toEqual([]);
      const again = await namedIn(id);
      for (const part of ['past', 'future'] as const) {
        expect(before[part].filter((one) => !again[part].includes(one)).join(), name).toBe('');
        expect(
          again[part].filter((one) => !before[part].includes(one)),
          name,
        ).toEqual([]);
        expect(again[part], name).toHaveLength(before[part].length);
      }
    }
    expect(handed).toBeGreaterThan(10);
  }, 240_000);

  it('a series goes on under somebody else, and its past stays theirs who had it', async () => {
    const host = await server.as('robine.thys');
    const id = await server.id('Robine Thys');
    const guest = await server.id('Mei Tanaka');
    const heir = await server.id('Tomas Okafor');
    const made = await host.post<EventDetail>(
      '/api/events',
      meetingRequest({
        title: 'Tide tables',
        times: { startsAt: '2026-11-09T08:00', endsAt: '2026-11-09T08:30', zone: 'UTC' },
        repeats: { rule: 'FREQ=WEEKLY;COUNT=8' },
        attendees: [
          { personId: guest, role: 'required' },
          { email: 'harbour@dalehaven.example', name: 'Harbour Office', role: 'required' },
        ],
      }),
    );
    expect(made.status, JSON.stringify(made.body)).toBe(201);
    const known = [...(await letters('mei.tanaka')), ...(await letters('tomas.okafor'))].map(
      (one) => one.id,
    );
    const done = await letLeave(id, { to: { personId: heir } });
    expect(done.status, JSON.stringify(done.body)).toBe(200);
    const reader = await server.as('mei.tanaka');
    const at = (date: string) =>
      reader.get<EventDetail>(`/api/events/${made.body.id}?occurrence=${date}T08:00`);
    const past = (await at('2026-11-16')).body;
    expect(past.organizer.name).toBe('Robine Thys');
    expect(past.attendees.filter((one) => one.role === 'organizer').map((one) => one.name)).toEqual(
      ['Robine Thys'],
    );
    const next = (await at('2026-11-30')).body;
    expect(next.organizer).toEqual({ id: heir, name: 'Tomas Okafor' });
    expect(next.attendees.map((one) => one.name)).not.toContain('Robine Thys');
    expect(next.sequence).toBe(made.body.sequence + 1);
    // Outside they hear of it from their new organizer, whom their calendar program answers.
    const mails = await server.sql<{ text: string; content: string }>(
      `select body_text as text, calendar as content from mail
       where recipient_email = 'harbour@dalehaven.example' and event_id = $1 and body_text like '%has left%'`,
      [made.body.id],
    );
    expect(mails).toHaveLength(1);
    const [mail] = mails;
    expect(mail!.text).toContain('Robine Thys has left. Tomas Okafor organizes it from now on.');
    expect(mail!.content.replace(/\r\n /g, '')).toMatch(/ORGANIZER[^\r]*tomas\.okafor@/);
    // Everybody here has one letter about all of it.
    const toMei = await letters('mei.tanaka', known);
    expect(toMei).toHaveLength(1);
    expect(toMei[0]!.body).toContain('Tomas Okafor organizes it from now on:');
    expect(toMei[0]!.body).toContain('Tide tables');
    expect((await letters('tomas.okafor', known))[0]!.body).toContain('Yours from now on:');
    // Whoever has it now takes that back no more than anybody else: it would be somebody's who is not here.
    const tomas = await server.as('tomas.okafor');
    const refused = await tomas.post<ProblemBody>(`/api/events/${made.body.id}/undo`, {
      version: next.version,
      change: next.version,
      tell: 'nobody',
    });
    expect(refused.status).toBe(403);
    // What they do with it stays when the leaving is taken back, and so does who organizes it where it is ended.
    const cancelled = await tomas.post(`/api/events/${made.body.id}/cancel`, {
      version: next.version,
      scope: 'one',
      occurrence: '2026-12-07T08:00',
      tell: 'nobody',
    });
    expect(cancelled.status).toBe(200);
    const back = await undo(done.body.change);
    expect(back.status).toBe(200);
    const again = (await at('2026-11-30')).body;
    expect(again.organizer.name).toBe('Robine Thys');
    expect(again.series!.cancelled).toEqual(['2026-12-07T08:00']);
  });

  it('is refused for more than was looked at, for nobody, for oneself, and for heirs who are not here', async () => {
    const id = await server.id('Leila Haddad');
    const held = await holdingsOf(id);
    const ask = (given: object, who = id) =>
      admin.post<ProblemBody>(`/api/administration/people/${who}/leave`, {
        version: held.person.version,
        seen: { meetings: held.meetings.length, bookings: held.bookings.length },
        meetings: { end: true },
        bookings: { end: true },
        ...given,
      });
    expect((await ask({ seen: { meetings: 0, bookings: 0 } })).body.code).toBe('stale');
    expect((await ask({ version: held.person.version + 1 })).body.code).toBe('stale');
    expect((await ask({ meetings: { to: { personId: id } } })).body.fields![0]!.field).toBe(
      'meetings.to',
    );
    expect((await ask({}, await server.id('Aksel Nordvik'))).status).toBe(400);
    expect((await ask({}, 999_999)).status).toBe(404);
    expect((await ask({ meetings: { to: {} } })).status).toBe(400);
    expect((await holdingsOf(id)).meetings).toHaveLength(held.meetings.length);
  });

  it('shows what is private to nobody: it goes to who takes part already, or ends', async () => {
    const hal = await server.as('hal.teague');
    const id = await server.id('Hal Teague');
    const [guest, heir] = [await server.id('Mei Tanaka'), await server.id('Tomas Okafor')];
    const make = async (title: string, day: string) =>
      (
        await hal.post<EventDetail>(
          '/api/events',
          meetingRequest({
            ...{ title, visibility: 'private' },
            times: { startsAt: `${day}T05:00`, endsAt: `${day}T05:30`, zone: 'UTC' },
            attendees: [{ personId: guest, role: 'required' }],
          }),
        )
      ).body.id;
    const one = await make('A private matter', '2026-12-14');
    const shown = await holdingsOf(id, `?person=${heir}`);
    expect(shown.meetings.find((event) => event.id === one)).toMatchObject({
      ...{ title: null, isPrivate: true, to: null },
    });
    expect(
      (await holdingsOf(id, `?person=${guest}`)).meetings.find((event) => event.id === one)!.to,
    ).toMatchObject({ id: guest });
    const done = await letLeave(id, { to: { personId: heir } });
    expect(done.status).toBe(200);
    const [row] = await server.sql('select organizer_id, status from event where id = $1', [one]);
    expect(row).toEqual({ organizer_id: id, status: 'cancelled' });
    const tomas = await server.as('tomas.okafor');
    expect((await tomas.get(`/api/events/${one}`)).status).toBe(404);
    expect((await undo(done.body.change)).status).toBe(200);
    const back = await letLeave(
      id,
      { to: { personId: heir } },
      {
        except: [{ id: one, fate: { to: { personId: guest } } }],
      },
    );
    const [kept] = await server.sql('select organizer_id, status from event where id = $1', [one]);
    expect(kept).toEqual({ organizer_id: guest, status: 'confirmed' });
    expect((await undo(back.body.change)).status).toBe(200);
  });

  it('is shared out among a team: to whom it suits, and of those to whoever has the fewest', async () => {
    const id = await server.id('Leila Haddad');
    const [team] = await server.sql<{ id: number }>(
      `select team_id as id from team_member group by 1 order by count(*) desc limit 1`,
    );
    const { meetings: all } = await holdingsOf(id, `?team=${team!.id}`);
    // What is private is somebody's only who takes part in it.
    expect(all.filter((one) => !one.to).every((one) => one.isPrivate)).toBe(true);
    const shown = { meetings: all.filter((one) => one.to) };
    const whose = shown.meetings.map((one) => one.to!.id);
    expect(new Set(whose).size).toBeGreaterThan(1);
    const members = await server.sql<{ id: number }>(
      'select person_id as id from team_member where team_id = $1',
      [team!.id],
    );
    for (const one of whose) expect(members.map((member) => member.id)).toContain(one);
    const busyAt = await server.sql<{ id: string }>(
      `select distinct event.id from event join occurrence on occurrence.event_id = event.id
       join claim on claim.during && tstzrange(occurrence.starts_at, occurrence.ends_at)
       join occurrence other on other.id = claim.occurrence_id and other.event_id <> event.id
       where event.id = any($1::uuid[]) and occurrence.starts_at >= $3
         and claim.subject_id = any($2::int[]) and claim.occupancy in ('busy', 'away')
         and event.rule is null`,
      [
        shown.meetings.filter((one) => !one.recurring && !one.to!.free).map((one) => one.id),
        whose,
        new Date(server.running.platform.clock.now()),
      ],
    );
    expect(busyAt.length).toBe(
      shown.meetings.filter((one) => !one.recurring && !one.to!.free).length,
    );
    const done = await letLeave(id, { to: { teamId: team!.id } });
    expect(done.status, JSON.stringify(done.body)).toBe(200);
    for (const one of shown.meetings) {
      const [row] = await server.sql<{ organizer: number }>(
        'select organizer_id as organizer from event where id = $1',
        [one.id],
      );
      expect(row!.organizer).toBe(one.to!.id);
    }
    expect((await undo(done.body.change)).status).toBe(200);
  });
});
