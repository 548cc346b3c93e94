import { describe, expect, it } from 'vitest';
import type { CalendarResponse } from '../../contract/calendar.ts';
import type { ProblemBody } from '../../contract/common.ts';
import type { NotificationsResponse } from '../../contract/notifications.ts';
import type { MadeEvent } from '../../contract/eventDetail.ts';
import { HOUR } from '../../core/time/interval.ts';
import { bergenTimes, meetingRequest } from '../../../tests/support/requests.ts';
import { useServer } from '../../../tests/support/server.ts';

/* Whoever looks after places books one for somebody else, who has it from then on as their own. */
const server = useServer({ works: false });

const START = Date.UTC(2027, 5, 12, 8);
/** A booking of Puffin at ten in Bergen on a Saturday in June. */
const booking = async (holder: number, more: object = {}) =>
  meetingRequest({
    title: 'Talk of a guest',
    times: bergenTimes('2027-06-12T10:00', '2027-06-12T11:00'),
    attendees: [],
    resources: [await server.id('Puffin')],
    for: holder,
    ...more,
  });
const lettersTo = async (mailbox: string, eventId: string) =>
  (
    await server.sql<{ body_text: string }>(
      `select body_text from mail where event_id = $1 and recipient_email like $2 || '@%'
       order by created_at`,
      [eventId, mailbox],
    )
  ).map((one) => one.body_text);

describe('a place booked by a steward for somebody else', () => {
  it('is theirs, stands in their calendar, and a letter says by whom it came', async () => {
    const hal = await server.id('Hal Teague');
    const client = await server.as('hal.teague');
    const ines = await server.as('ines.aldabe');
    const made = await ines.post<MadeEvent>('/api/events', await booking(hal));
    expect(made).toMatchObject({
      status: 201,
      body: { organizer: { name: 'Hal Teague' }, resources: [{ name: 'Puffin' }] },
    });
    // What its holder has of their own is nobody else's to read.
    expect(made.body).toMatchObject({ reminders: [], categoryId: null });
    const { body } = await client.get<CalendarResponse>(
      `/api/calendar?from=${START - HOUR}&to=${START + 2 * HOUR}`,
    );
    expect(body.items).toMatchObject([{ eventId: made.body.id, standing: 'organizer' }]);
    expect((await client.get<MadeEvent>(`/api/events/${made.body.id}`)).body.reminders).toEqual([
      { minutes: 10, means: 'popup' },
    ]);
    expect(await lettersTo('hal.teague', made.body.id)).toEqual([
      expect.stringContaining('Ines Aldabe booked Puffin for you.'),
    ]);

    const bell = async () =>
      (await client.get<NotificationsResponse>('/api/notifications')).body.notifications.filter(
        (one) => one.eventId === made.body.id,
      );
    expect(await bell()).toMatchObject([{ what: 'invited', by: 'Ines Aldabe', isBooking: true }]);
    // The steward gives it back as any other booking; its holder hears of it.
    const { bookings } = made.body;
    expect(bookings).toHaveLength(1);
    const back = await ines.post('/api/ledger/change', {
      bookings,
      change: { kind: 'give-back' },
    });
    expect(back).toMatchObject({ status: 200, body: { cancelled: 1 } });
    expect((await lettersTo('hal.teague', made.body.id)).join('\n')).toContain(
      'Ines Aldabe gave Puffin back: it is free for others again.',
    );
  });

  it('is bound by the rules for whoever is to have it', async () => {
    const [team] = await server.sql<{ id: number }>(
      `select team_id as id from team_member where person_id = $1 limit 1`,
      [await server.id('Ines Aldabe')],
    );
    await server.sql(
      `update resource set rules = rules || jsonb_build_object('teams', jsonb_build_array($2::int))
       where subject_id = $1`,
      [await server.id('Puffin'), team!.id],
    );
    const ines = await server.as('ines.aldabe');
    const answer = await ines.post<ProblemBody>(
      '/api/events',
      await booking(await server.id('Hal Teague')),
    );
    expect(answer.status).toBe(409);
    await server.sql(`update resource set rules = rules - 'teams' where subject_id = $1`, [
      await server.id('Puffin'),
    ]);
  });

  it('is all that goes so: no meeting, nobody of elsewhere, and by nobody else', async () => {
    const hal = await server.id('Hal Teague');
    const ines = await server.as('ines.aldabe');
    const mika = await server.as('mika.sandoval');
    const meeting = {
      attendees: [{ personId: await server.id('Mika Sandoval'), role: 'required' }],
    };
    for (const [client, more] of [
      [mika, {}],
      [ines, meeting],
      [ines, { resources: [] }],
      [ines, { draft: { holds: true } }],
    ] as const) {
      const answer = await client.post<ProblemBody>('/api/events', await booking(hal, more));
      expect(answer).toMatchObject({
        status: 403,
        body: { code: 'not-allowed', fields: [{ field: 'for' }] },
      });
    }
    const [elsewhere] = await server.sql<{ id: number }>(
      `select subject_id as id from person where organization_id <> (
         select organization_id from person where subject_id = $1) limit 1`,
      [hal],
    );
    for (const id of [elsewhere!.id, 2_000_000_000]) {
      const answer = await ines.post<ProblemBody>('/api/events', await booking(id));
      expect(answer).toMatchObject({
        status: 404,
        body: { code: 'unknown-subject', fields: [{ field: 'for' }] },
      });
    }
    expect(
      await server.sql(
        `select 1 from event where title = 'Talk of a guest' and status = 'confirmed'`,
      ),
    ).toEqual([]);
  });
});
