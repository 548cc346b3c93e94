import { beforeAll, describe, expect, it } from 'vitest';
import type { CalendarResponse, FoundEvent } from '../../contract/calendar.ts';
import type { ProblemBody } from '../../contract/common.ts';
import type { EventDetail } from '../../contract/eventDetail.ts';
import type { GuestInvitation } from '../../contract/guest.ts';
import type { DaysAround, InvitationDetail } from '../../contract/invitations.ts';
import { bergenTimes, meetingRequest } from '../../../tests/support/requests.ts';
import { useServer } from '../../../tests/support/server.ts';

/* What those who are invited may do beside answering: change it, ask others, see who else is asked. */

const server = useServer();
const OUTSIDE = 'jon.skau@harbourworks.example';
let leila: number;
let hal: number;
beforeAll(async () => {
  leila = await server.id('Leila Haddad');
  hal = await server.id('Hal Teague');
});

let day = 0;
async function asked(rights: object) {
  const ines = await server.as('ines.aldabe');
  const date = new Date(Date.UTC(2027, 4, 3 + day++)).toISOString().slice(0, 10);
  const made = await ines.post<EventDetail>(
    '/api/events',
    meetingRequest({
      title: `Quiet matter ${day}`,
      times: bergenTimes(`${date}T10:00`, `${date}T11:00`),
      attendees: [
        { personId: leila, role: 'required' },
        { personId: hal, role: 'optional' },
        { email: OUTSIDE, role: 'required' },
      ],
      rights,
    }),
  );
  expect(made.status).toBe(201);
  return made.body;
}

const namesHal = (what: unknown) => /Hal Teague|hal\.teague/.test(JSON.stringify(what));

describe('who else is asked', () => {
  it('is kept from invitees who may not see the list, on every road', async () => {
    const event = await asked({ list: false });
    const reader = await server.as('leila.haddad');
    const detail = await reader.get<EventDetail>(`/api/events/${event.id}`);
    expect(detail.body.attendees.map((one) => one.name)).toEqual(['Ines Aldabe', 'Leila Haddad']);
    expect(detail.body).toMatchObject({ listsAll: false, canChange: false, canInvite: false });
    const invitation = await reader.get<InvitationDetail>(`/api/invitations/${event.id}`);
    expect(namesHal(invitation.body)).toBe(false);
    const days = await reader.get<DaysAround>(
      `/api/invitations/${event.id}/days?zone=Europe/Oslo&from=2027-05-03`,
    );
    expect(days.body.total).toBe(2);
    // Neither does a search by name find it, nor the past with those people.
    const found = await reader.get<{ found: FoundEvent[] }>('/api/calendar/search?q=Hal%20Quiet');
    expect(found.body.found).toEqual([]);
    const window = `from=${event.start}&to=${event.end}`;
    const calendar = await reader.get<CalendarResponse>(`/api/calendar?${window}`);
    expect(calendar.body.items.some((one) => one.eventId === event.id)).toBe(true);
    expect(namesHal(calendar.body.items)).toBe(false);

    const letters = await server.sql<{
      recipient_email: string;
      body_text: string;
      calendar: string;
    }>(`select recipient_email, body_text, body_html, calendar from mail where event_id = $1`, [
      event.id,
    ]);
    expect(letters).toHaveLength(3);
    for (const letter of letters) {
      expect([letter.recipient_email, namesHal(letter)]).toEqual([
        letter.recipient_email,
        letter.recipient_email.startsWith('hal'),
      ]);
    }
    const outside = letters.find((one) => one.recipient_email === OUTSIDE)!;
    const token = /\/guest\/(\S+)/.exec(outside.body_text)![1]!;
    const page = await server.anonymous().get<GuestInvitation>(`/api/guest/${token}`);
    expect(page.body).toMatchObject({ others: [], more: 0 });
    // Its organizer sees all of them.
    const ines = await server.as('ines.aldabe');
    const whole = await ines.get<EventDetail>(`/api/events/${event.id}`);
    expect(whole.body.attendees).toHaveLength(4);
  });

  it('is not told by a change of people either', async () => {
    const event = await asked({ list: false });
    const ines = await server.as('ines.aldabe');
    await ines.patch(`/api/events/${event.id}`, {
      version: event.version,
      title: 'Quiet matter, smaller',
      attendees: [{ personId: leila, role: 'required' }],
    });
    const [letter] = await server.sql<{ body_text: string }>(
      `select body_text, body_html, calendar from mail
       where event_id = $1 and recipient_email like 'leila%' and subject like 'Changed%'`,
      [event.id],
    );
    expect(letter!.body_text).toContain('It was called');
    expect(namesHal(letter)).toBe(false);
  });
});

describe('an invitee', () => {
  it('asks others where they may, who are told; and it can be taken back', async () => {
    const event = await asked({ invite: true });
    const reader = await server.as('leila.haddad');
    const tomas = await server.id('Tomas Okafor');
    const asking = { attendees: [{ personId: tomas, role: 'optional' }], message: 'He knows it' };
    const done = await reader.post<EventDetail>(`/api/events/${event.id}/invite`, asking);
    expect(done.status).toBe(200);
    expect(done.body.attendees.map((one) => one.name)).toContain('Tomas Okafor');
    expect(done.body.attendees.find((one) => one.personId === leila)!.role).toBe('required');
    const letters = await server.sql<{ recipient_email: string; body_text: string }>(
      `select recipient_email, body_text from mail where event_id = $1 and body_text like '%He knows it%'`,
      [event.id],
    );
    expect(letters.map((one) => one.recipient_email)).toEqual(['tomas.okafor@ternrock.example']);
    expect(letters[0]!.body_text).toContain('Leila Haddad, for Ines Aldabe,');
    const again = await reader.post<ProblemBody>(`/api/events/${event.id}/invite`, asking);
    expect(again.body.code).toBe('asked-already');

    const closed = await asked({});
    const refused = await reader.post<ProblemBody>(`/api/events/${closed.id}/invite`, asking);
    expect(refused).toMatchObject({ status: 403, body: { code: 'not-organizer' } });
    const other = await (
      await server.as('clara.weiss')
    ).post<ProblemBody>(`/api/events/${event.id}/invite`, asking);
    expect(other.status).toBeGreaterThanOrEqual(403);
  });

  it('changes it where they may, but neither cancels it nor gives themselves more', async () => {
    const event = await asked({ change: true });
    const reader = await server.as('leila.haddad');
    const changed = await reader.patch<EventDetail>(`/api/events/${event.id}`, {
      version: event.version,
      title: 'Better called so',
    });
    expect(changed.body).toMatchObject({
      title: 'Better called so',
      canChange: true,
      canCancel: false,
    });
    const { version } = changed.body;
    const no = { status: 403, body: { code: 'not-organizer' } };
    const path = `/api/events/${event.id}`;
    expect(await reader.post(`${path}/cancel`, { version })).toMatchObject(no);
    expect(await reader.patch(path, { version, rights: { invite: true } })).toMatchObject(no);
    const ines = await server.as('ines.aldabe');
    const cancelled = await ines.post<EventDetail>(`${path}/cancel`, { version });
    expect(cancelled.status).toBe(200);
    const undo = await reader.post(`${path}/undo`, { version: cancelled.body.version });
    expect(undo).toMatchObject(no);
  });
});
