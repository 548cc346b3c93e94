import { describe, expect, it } from 'vitest';
import type { ProblemBody } from '../../contract/common.ts';
import type { z } from 'zod';
import type { UndoneTogether } from '../../contract/events.ts';
import type {
  LedgerChanged,
  LedgerResponse,
  LedgerRow,
  ledgerChangesMade,
} from '../../contract/ledger.ts';

import { MINUTE } from '../../core/time/interval.ts';
import { meetingRequest } from '../../../tests/support/requests.ts';
import { useServer } from '../../../tests/support/server.ts';

type Made = z.output<typeof ledgerChangesMade>;

/* Bookings of the ledger that are changed, and taken back, together. */
const server = useServer({ works: false });

const ZONE = 'Europe/Oslo';

describe('several bookings at once', () => {
  const wall = (day: number, hour: number) =>
    `2027-03-${String(day).padStart(2, '0')}T${String(hour).padStart(2, '0')}:00`;
  async function booked(mailbox: string, place: string, day: number, more = {}) {
    const client = await server.as(mailbox);
    const { body, status } = await client.post<{ id: string }>(
      '/api/events',
      meetingRequest({
        title: `Tide table ${place} ${day}`,
        times: { startsAt: wall(day, 10), endsAt: wall(day, 11), zone: ZONE },
        attendees: [],
        resources: [await server.id(place)],
        ...more,
      }),
    );
    expect(status).toBe(201);
    return { eventId: body.id };
  }
  /** Bookings as a change names them, whoever may see them. */
  async function named(...some: { eventId: string; on?: string }[]) {
    const rows = await Promise.all(
      some.map(({ eventId, on }) =>
        server.sql<{ id: string; start: number }>(
          `select r.id::text, r.starts_at as start from reservation r
           join occurrence on occurrence.id = r.occurrence_id
           where occurrence.event_id = $1 and ($2::timestamp is null or recurrence_at = $2)`,
          [eventId, on ?? null],
        ),
      ),
    );
    return rows.flat().map(({ id, start }) => ({ id, start: Number(new Date(start)) }));
  }
  const rowsOf = async (mailbox: string, more = {}) =>
    (
      await (
        await server.as(mailbox)
      ).get<LedgerResponse>(
        `/api/ledger?${new URLSearchParams({ from: '2027-03-01', to: '2027-03-31', whose: 'all', limit: '200', ...more }).toString()}`,
      )
    ).body.rows;
  const standing = (rows: readonly LedgerRow[], ids: readonly { eventId: string }[]) =>
    rows
      .filter((row) => ids.some((one) => one.eventId === row.eventId))
      .map((row) => [row.place, new Date(row.start).toISOString().slice(8, 13)]);

  it('are given back together, each undone by itself, and a meeting goes on without its place', async () => {
    const hal = await server.as('hal.teague');
    const one = await booked('hal.teague', 'Gannet', 1);
    const meeting = await booked('hal.teague', 'Gannet', 2, {
      attendees: [{ personId: await server.id('Tomas Okafor'), role: 'required' }],
    });
    // What is for oneself alone is named anew in its row; a meeting, or another's, is not.
    const versions = async (mailbox: string) =>
      (await rowsOf(mailbox))
        .filter((row) => row.title === 'Tide table Gannet 1' || row.title === 'Tide table Gannet 2')
        .map((row) => row.version);
    expect(await versions('hal.teague')).toEqual([1, null]);
    expect(new Set(await versions('tomas.okafor'))).toEqual(new Set([null]));
    const answer = await hal.post<{ undo: { id: string; version: number }[] }>(
      '/api/ledger/change',
      { bookings: await named(one, meeting), change: { kind: 'give-back' } },
    );
    expect(answer).toMatchObject({ status: 200, body: { cancelled: 1, without: 1, moved: 0 } });
    expect(standing(await rowsOf('hal.teague'), [one, meeting])).toEqual([]);
    const after = await hal.get<{ status: string }>(`/api/events/${meeting.eventId}`);
    expect(after.body.status).toBe('confirmed');
    for (const { id, version } of answer.body.undo) {
      const undone = await hal.post(`/api/events/${id}/undo`, {
        version,
        change: version,
        tell: 'nobody',
      });
      expect(undone.status).toBe(200);
    }
    expect(standing(await rowsOf('hal.teague'), [one, meeting])).toEqual([
      ['Gannet', '01T09'],
      ['Gannet', '02T09'],
    ]);
  });

  it('go into another place, or all stay where one of them cannot', async () => {
    const hal = await server.as('hal.teague');
    const some = [await booked('hal.teague', 'Gannet', 4), await booked('hal.teague', 'Gannet', 5)];
    const change = { kind: 'place', placeId: await server.id('Fulmar') };
    const inTheWay = await booked('leila.haddad', 'Fulmar', 5);
    const refused = await hal.post<ProblemBody>('/api/ledger/change', {
      bookings: await named(...some),
      change,
    });
    expect(refused).toMatchObject({ status: 409, body: { code: 'resource-taken' } });
    expect(standing(await rowsOf('hal.teague'), some).map(([place]) => place)).toEqual([
      'Gannet',
      'Gannet',
    ]);
    await (
      await server.as('leila.haddad')
    ).post(`/api/events/${inTheWay.eventId}/cancel`, {
      version: 1,
    });
    expect(
      (await hal.post('/api/ledger/change', { bookings: await named(...some), change })).status,
    ).toBe(200);
    expect(standing(await rowsOf('hal.teague'), some).map(([place]) => place)).toEqual([
      'Fulmar',
      'Fulmar',
    ]);
  });

  it('move in time together, one after the other into the time of the next', async () => {
    const hal = await server.as('hal.teague');
    const some = [await booked('hal.teague', 'Gannet', 8), await booked('hal.teague', 'Gannet', 9)];
    const answer = await hal.post('/api/ledger/change', {
      bookings: await named(...some),
      change: { kind: 'shift', minutes: 24 * 60 },
    });
    expect(answer.status).toBe(200);
    expect(standing(await rowsOf('hal.teague'), some)).toEqual([
      ['Gannet', '09T09'],
      ['Gannet', '10T09'],
    ]);
    // Where they are listed it can be taken back later, too; by whoever did it alone.
    const listed = async (mailbox: string) =>
      (await (await server.as(mailbox)).get<Made>('/api/ledger/changes')).body.made.filter(
        ({ changes }) => changes.some(({ id }) => some.some(({ eventId }) => eventId === id)),
      );
    const { undo } = answer.body as LedgerChanged;
    expect(await listed('hal.teague')).toMatchObject([{ isCancelling: false, changes: undo }]);
    expect(await listed('ines.aldabe')).toEqual([]);
    // Back the other way round, each into the time that the one before gave up.
    const back = await hal.post<UndoneTogether>('/api/ledger/undo', {
      changes: (answer.body as LedgerChanged).undo,
    });
    expect(back).toMatchObject({ status: 200, body: { undone: 2, partly: 0, left: 0 } });
    expect(await listed('hal.teague')).toEqual([]);
    expect(standing(await rowsOf('hal.teague'), some)).toEqual([
      ['Gannet', '08T09'],
      ['Gannet', '09T09'],
    ]);
  });

  it('are taken back together: by the steward who changed them, but for what was changed since', async () => {
    const some = [
      await booked('hal.teague', 'Gannet', 26),
      await booked('leila.haddad', 'Gannet', 27, { visibility: 'private' }),
      await booked('hal.teague', 'Gannet', 28),
    ];
    const ines = await server.as('ines.aldabe');
    const changed = await ines.post<LedgerChanged>('/api/ledger/change', {
      bookings: await named(...some),
      change: { kind: 'give-back' },
    });
    expect(changed).toMatchObject({ status: 200, body: { cancelled: 3 } });
    const changes = changed.body.undo;
    // Not by others, who do not see them; nor by a steward who did not do it.
    const mika = await server.as('mika.sandoval');
    const hidden = await mika.post<ProblemBody>('/api/ledger/undo', { changes });
    expect(hidden).toMatchObject({ status: 404, body: { code: 'no-such-event' } });
    const [grace] = await server.sql<{ email: string }>(
      `update person set role = 'steward' where email like 'grace.paul@%' returning email`,
    );
    const other = await server.as(grace!.email.split('@')[0]!);
    expect((await other.post('/api/ledger/undo', { changes })).status).toBe(404);
    await server.sql(`update person set role = 'staff' where email like 'grace.paul@%'`);
    // One of them has been brought back by its holder meanwhile: it stays as it is.
    const hal = await server.as('hal.teague');
    const last = changes.find((one) => one.id === some[2]!.eventId)!;
    expect(
      (await hal.post(`/api/events/${last.id}/restore`, { version: last.version })).status,
    ).toBe(200);
    const back = await ines.post<UndoneTogether>('/api/ledger/undo', { changes });
    expect(back).toMatchObject({ status: 200, body: { undone: 2, left: 1 } });
    expect(standing(await rowsOf('hal.teague'), some)).toEqual([
      ['Gannet', '26T09'],
      ['Gannet', '28T08'],
    ]);
    expect(standing(await rowsOf('leila.haddad'), some).flat()).toContain('27T09');
    // Once: nothing of it is theirs any more.
    const again = await ines.post<ProblemBody>('/api/ledger/undo', {
      changes: changes.slice(0, 1),
    });
    expect(again).toMatchObject({ status: 404, body: { code: 'no-such-event' } });
  });

  it('are all that a steward takes back so: not what they said of a meeting as one invited', async () => {
    const ines = await server.as('ines.aldabe');
    const hal = await server.as('hal.teague');
    const { eventId } = await booked('hal.teague', 'Gannet', 31, {
      attendees: [{ personId: await server.id('Ines Aldabe'), role: 'required' }],
      rights: { change: true },
      visibility: 'private',
    });
    const renamed = await ines.patch(`/api/events/${eventId}`, { version: 1, title: 'Mine now' });
    expect(renamed.status).toBe(200);
    expect((await hal.patch(`/api/events/${eventId}`, { version: 2, attendees: [] })).status).toBe(
      200,
    );
    const back = await ines.post('/api/ledger/undo', { changes: [{ id: eventId, version: 2 }] });
    expect(back).toMatchObject({ status: 404, body: { code: 'no-such-event' } });
  });

  it('stay given back, all of them, where somebody else has one of the places by now', async () => {
    const hal = await server.as('hal.teague');
    const some = [
      await booked('hal.teague', 'Gannet', 29),
      await booked('hal.teague', 'Gannet', 30),
    ];
    const changed = await hal.post<LedgerChanged>('/api/ledger/change', {
      bookings: await named(...some),
      change: { kind: 'give-back' },
    });
    await booked('leila.haddad', 'Gannet', 30);
    const back = await hal.post<ProblemBody>('/api/ledger/undo', { changes: changed.body.undo });
    expect(back).toMatchObject({ status: 409, body: { code: 'resource-taken' } });
    expect(standing(await rowsOf('hal.teague'), some)).toEqual([]);
  });

  it('of a series are changed date by date', async () => {
    const hal = await server.as('hal.teague');
    const { eventId } = await booked('hal.teague', 'Gannet', 15, {
      repeats: { rule: 'FREQ=DAILY;COUNT=4' },
    });
    const dates = await named(...[16, 18].map((day) => ({ eventId, on: wall(day, 10) })));
    const answer = await hal.post('/api/ledger/change', {
      bookings: dates,
      change: { kind: 'give-back' },
    });
    expect(answer).toMatchObject({ status: 200, body: { cancelled: 2 } });
    expect(standing(await rowsOf('hal.teague'), [{ eventId }])).toEqual([
      ['Gannet', '15T09'],
      ['Gannet', '17T09'],
    ]);
  });

  it('are changed by those who may: others are refused, as if it were not there where it is not seen', async () => {
    const one = await booked('hal.teague', 'Gannet', 22);
    const hidden = await booked('hal.teague', 'Gannet', 23, { visibility: 'private' });
    const give = async (
      mailbox: string,
      bookings: unknown[],
      change: unknown = { kind: 'give-back' },
    ) => (await server.as(mailbox)).post<ProblemBody>('/api/ledger/change', { bookings, change });
    const [it, secret] = await named(one, hidden);
    for (const booking of [secret!, { ...it!, id: '999999999' }]) {
      const answer = await give('mika.sandoval', [booking]);
      expect([answer.status, answer.body.code]).toEqual([404, 'no-such-booking']);
    }
    const twice = await give('hal.teague', [it, it]);
    expect([twice.status, twice.body.fields?.[0]?.message]).toEqual([
      400,
      'must name each booking once',
    ]);
    const moved = await give('hal.teague', [{ ...it!, start: it!.start - MINUTE }]);
    expect([moved.status, moved.body.code]).toEqual([409, 'changed-since']);
    expect(standing(await rowsOf('hal.teague'), [one, hidden])).toHaveLength(2);
    // Who looks after places moves and gives back what they do not see, and takes it back; its holder hears of it.
    const shift = { kind: 'shift', minutes: 60 };
    const late = await give('ines.aldabe', [secret], shift);
    expect(late.status).toBe(200);
    const ines = await server.as('ines.aldabe');
    const { undo } = late.body as unknown as LedgerChanged;
    const [shifted] = await named(hidden);
    expect(shifted!.start).toBe(secret!.start + 60 * MINUTE);
    const back = await ines.post('/api/ledger/undo', { changes: undo });
    expect(back).toMatchObject({ status: 200, body: { undone: 1, partly: 0, left: 0 } });
    const told = await server.sql<{ body_text: string }>(
      'select body_text from mail where event_id = $1',
      [hidden.eventId],
    );
    expect(told.map((one) => one.body_text).join()).toMatch(/Ines Aldabe|another time/);
    expect((await give('mika.sandoval', [secret], shift)).status).toBe(404);
    expect((await give('ines.aldabe', [secret])).status).toBe(200);
    // Who has it is told by letter when a steward gives it back.
    await server.sql(`update person set share_organization = 'everything' where subject_id = $1`, [
      await server.id('Hal Teague'),
    ]);
    expect((await give('mika.sandoval', [it])).body.code).toBe('not-organizer');
    expect((await give('ines.aldabe', [it])).status).toBe(200);
    const letters = await server.sql<{ method: string }>(
      `select method from mail where event_id = $1 and recipient_email like 'hal.teague%' and method = 'CANCEL'`,
      [one.eventId],
    );
    expect(letters).toHaveLength(1);
  });
});

it('when a reservation is and whose is what its meeting says, whatever was done', async () => {
  const wrong = await server.sql(
    `select r.id from reservation r
     join occurrence on occurrence.id = r.occurrence_id
     join event on event.id = occurrence.event_id
     where r.state <> 'released'
       and (r.starts_at, r.ends_at, r.holder_id)
         is distinct from (occurrence.starts_at, occurrence.ends_at, event.organizer_id)`,
  );
  expect(wrong).toEqual([]);
});
