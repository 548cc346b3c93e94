import { beforeAll, describe, expect, it } from 'vitest';
import type { CalendarResponse, FoundEvent } from '../../contract/calendar.ts';
import type { ProblemBody } from '../../contract/common.ts';
import type { EventDetail } from '../../contract/eventDetail.ts';
import type { RepliesList, WaitingInvitation } from '../../contract/invitations.ts';
import { bergenTimes, meetingRequest } from '../../../tests/support/requests.ts';
import { useServer } from '../../../tests/support/server.ts';

/* Meetings that are not sent yet: nobody else sees them, and they hold no time unless that is asked. */

const server = useServer({}, 10);
const OUTSIDE = 'jon.skau@harbourworks.example';
let leila: number;
let ines: number;
let room: number;
beforeAll(async () => {
  leila = await server.id('Leila Haddad');
  ines = await server.id('Ines Aldabe');
  room = await server.id('Gannet');
});

let day = 0;
async function drafted(more: object = {}): Promise<EventDetail> {
  const organizer = await server.as('ines.aldabe');
  const date = new Date(Date.UTC(2027, 5, 1 + day++)).toISOString().slice(0, 10);
  const made = await organizer.post<EventDetail>(
    '/api/events',
    meetingRequest({
      title: `Reef plans ${day}`,
      times: bergenTimes(`${date}T10:00`, `${date}T11:00`),
      attendees: [
        { personId: leila, role: 'required' },
        { email: OUTSIDE, role: 'optional' },
      ],
      resources: [room],
      draft: { holds: false },
      ...more,
    }),
  );
  expect(made.status).toBe(201);
  return made.body;
}

const claims = async (id: string) =>
  server.sql<{ subject: string; occupancy: string }>(
    `select subject.name as subject, claim.occupancy
     from claim join occurrence on occurrence.id = claim.occurrence_id
     join subject on subject.id = claim.subject_id
     where occurrence.event_id = $1 order by 1`,
    [id],
  );
const letters = async (id: string) =>
  (await server.sql('select id from mail where event_id = $1', [id])).length;

describe('a draft', () => {
  it('is seen by its organizer alone, on every road', async () => {
    const draft = await drafted();
    expect(draft.draft).toEqual({ holds: false });
    expect(draft.attendees.map((one) => one.name)).toEqual([
      'Ines Aldabe',
      'Leila Haddad',
      OUTSIDE,
    ]);
    const reader = await server.as('leila.haddad');
    const window = `from=${draft.start}&to=${draft.end}`;
    const names = (what: unknown) => JSON.stringify(what).includes(draft.title);
    // Even somebody with whom she shares everything but acting for her.
    await server.sql(
      `update person set share_organization = 'edit' where email like 'ines.aldabe@%'`,
    );
    try {
      expect((await reader.get(`/api/events/${draft.id}`)).status).toBe(404);
      expect((await reader.get(`/api/invitations/${draft.id}`)).status).toBe(404);
      const asked = await reader.get<{ invitations: WaitingInvitation[] }>('/api/invitations');
      expect(names(asked.body)).toBe(false);
      const calendar = await reader.get<CalendarResponse>(
        `/api/calendar?${window}&subjects=${ines},${leila},${room}`,
      );
      expect(calendar.status).toBe(200);
      expect(names(calendar.body)).toBe(false);
      const found = await reader.get<{ found: FoundEvent[] }>(
        '/api/calendar/search?q=Reef%20plans',
      );
      expect(found.body.found).toEqual([]);
      const layer = calendar.body.subjects.find((one) => one.id === ines)!;
      expect(layer.items.filter((one) => one.start === draft.start)).toEqual([]);
    } finally {
      await server.sql(
        `update person set share_organization = 'titles' where email like 'ines.aldabe@%'`,
      );
    }
    const mine = await server.as('ines.aldabe');
    const calendar = await mine.get<CalendarResponse>(`/api/calendar?${window}`);
    expect(calendar.body.items.find((one) => one.eventId === draft.id)).toMatchObject({
      draft: true,
      occupancy: 'free',
    });
    const replies = await mine.get<RepliesList>('/api/replies');
    expect(replies.body.drafts.find((one) => one.id === draft.id)).toMatchObject({
      toAsk: 2,
      holds: false,
    });
    expect(replies.body.meetings.some((one) => one.id === draft.id)).toBe(false);
  });

  it('holds no time and no place, unless that is asked', async () => {
    const organizer = await server.as('ines.aldabe');
    const draft = await drafted();
    expect(await claims(draft.id)).toEqual([{ subject: 'Ines Aldabe', occupancy: 'free' }]);
    const held = await organizer.patch<EventDetail>(`/api/events/${draft.id}`, {
      version: draft.version,
      holds: true,
    });
    expect(held.body.draft).toEqual({ holds: true });
    expect(await claims(draft.id)).toEqual([
      { subject: 'Gannet', occupancy: 'busy' },
      { subject: 'Ines Aldabe', occupancy: 'tentative' },
    ]);
    const given = await organizer.patch<EventDetail>(`/api/events/${draft.id}`, {
      version: held.body.version,
      holds: false,
    });
    expect(given.status).toBe(200);
    expect(await claims(draft.id)).toEqual([{ subject: 'Ines Aldabe', occupancy: 'free' }]);
    expect(await letters(draft.id)).toBe(0);
  });

  it('is changed without a word to anybody, its people too', async () => {
    const organizer = await server.as('ines.aldabe');
    const draft = await drafted();
    const changed = await organizer.patch<EventDetail>(`/api/events/${draft.id}`, {
      version: draft.version,
      title: 'Reef plans, later',
      attendees: [{ personId: await server.id('Hal Teague'), role: 'required' }],
      message: 'Never said',
    });
    expect(changed.body.attendees.map((one) => one.name)).toEqual(['Ines Aldabe', 'Hal Teague']);
    expect(await letters(draft.id)).toBe(0);
    const undone = await organizer.post<EventDetail>(`/api/events/${draft.id}/undo`, {
      version: changed.body.version,
    });
    expect(undone.body).toMatchObject({ title: draft.title, draft: { holds: false } });
    expect(undone.body.attendees).toHaveLength(3);
    expect(await letters(draft.id)).toBe(0);
  });

  it('is sent to those it names, takes their time and its place, and can be taken back unheard', async () => {
    const organizer = await server.as('ines.aldabe');
    const draft = await drafted();
    const sent = await organizer.post<EventDetail & { undo: { id: string; version: number } }>(
      `/api/events/${draft.id}/send`,
      { version: draft.version, message: 'At last' },
    );
    expect(sent.body).toMatchObject({ draft: null, myReply: 'accepted' });
    expect(await claims(draft.id)).toEqual([
      { subject: 'Gannet', occupancy: 'busy' },
      { subject: 'Ines Aldabe', occupancy: 'busy' },
      { subject: 'Leila Haddad', occupancy: 'tentative' },
    ]);
    expect(await letters(draft.id)).toBe(2);
    const again = await organizer.post<ProblemBody>(`/api/events/${draft.id}/send`, {
      version: sent.body.version,
    });
    expect(again).toMatchObject({ status: 409, body: { code: 'sent-already' } });
    const undone = await organizer.post<EventDetail>(`/api/events/${draft.id}/undo`, {
      version: sent.body.version,
      change: sent.body.undo.version,
    });
    expect(undone.body.draft).toEqual({ holds: false });
    expect(undone.body.attendees).toHaveLength(3);
    expect(await claims(draft.id)).toEqual([{ subject: 'Ines Aldabe', occupancy: 'free' }]);
    expect(await letters(draft.id)).toBe(0);
    const reader = await server.as('leila.haddad');
    expect((await reader.get(`/api/events/${draft.id}`)).status).toBe(404);
  });

  it('has whoever was asked since it was sent, once sending is taken back', async () => {
    const organizer = await server.as('ines.aldabe');
    const draft = await drafted();
    const sent = await organizer.post<EventDetail>(`/api/events/${draft.id}/send`, {
      version: draft.version,
    });
    const more = await organizer.post<EventDetail>(`/api/events/${draft.id}/invite`, {
      attendees: [{ personId: await server.id('Hal Teague'), role: 'optional' }],
    });
    const undone = await organizer.post<EventDetail>(`/api/events/${draft.id}/undo`, {
      version: more.body.version,
      change: sent.body.version,
    });
    expect(undone.body.draft).toEqual({ holds: false });
    expect(undone.body.attendees.map((one) => one.name)).toContain('Hal Teague');
    expect(await claims(draft.id)).toEqual([{ subject: 'Ines Aldabe', occupancy: 'free' }]);
    expect(await letters(draft.id)).toBe(0);
    const hal = await server.as('hal.teague');
    expect((await hal.get(`/api/events/${draft.id}`)).status).toBe(404);
  });

  it('is refused when its place was taken meanwhile, and stays a draft', async () => {
    const organizer = await server.as('ines.aldabe');
    const draft = await drafted();
    const other = await server.as('hal.teague');
    const taken = await other.post(
      '/api/events',
      meetingRequest({
        title: 'Quicker',
        times: bergenTimes(draft.startsAt, draft.endsAt),
        resources: [room],
      }),
    );
    expect(taken.status).toBe(201);
    const sent = await organizer.post<ProblemBody>(`/api/events/${draft.id}/send`, {
      version: draft.version,
    });
    expect(sent).toMatchObject({ status: 409, body: { code: 'resource-taken' } });
    const still = await organizer.get<EventDetail>(`/api/events/${draft.id}`);
    expect(still.body).toMatchObject({ draft: { holds: false }, version: draft.version });
  });

  it('is discarded without a word, and comes back as a draft', async () => {
    const organizer = await server.as('ines.aldabe');
    const draft = await drafted({ draft: { holds: true } });
    const gone = await organizer.post<EventDetail>(`/api/events/${draft.id}/cancel`, {
      version: draft.version,
    });
    expect(gone.body.status).toBe('cancelled');
    expect(await claims(draft.id)).toEqual([]);
    const back = await organizer.post<EventDetail>(`/api/events/${draft.id}/restore`, {
      version: gone.body.version,
    });
    expect(back.body).toMatchObject({ status: 'confirmed', draft: { holds: true } });
    expect(await claims(draft.id)).toHaveLength(2);
    expect(await letters(draft.id)).toBe(0);
  });

  it('of a series is split and sent in parts', async () => {
    const organizer = await server.as('ines.aldabe');
    const draft = await drafted({ repeats: { rule: 'FREQ=WEEKLY;COUNT=4' }, resources: [] });
    const tail = await organizer.patch<EventDetail>(`/api/events/${draft.id}`, {
      version: draft.version,
      scope: 'following',
      occurrence: draft.startsAt.replace(/^(.{10})/, (date) =>
        new Date(Date.parse(date) + 14 * 86_400_000).toISOString().slice(0, 10),
      ),
      title: 'Reef plans, second half',
    });
    expect(tail.body).toMatchObject({ draft: { holds: false } });
    expect(tail.body.id).not.toBe(draft.id);
    const sent = await organizer.post<EventDetail>(`/api/events/${tail.body.id}/send`, {
      version: tail.body.version,
    });
    expect(sent.status).toBe(200);
    const reader = await server.as('leila.haddad');
    expect((await reader.get(`/api/events/${tail.body.id}`)).status).toBe(200);
    expect((await reader.get(`/api/events/${draft.id}`)).status).toBe(404);
  });

  it('names what cannot be', async () => {
    const organizer = await server.as('ines.aldabe');
    const made = await organizer.post<EventDetail>(
      '/api/events',
      meetingRequest({ title: 'Sent', times: bergenTimes('2027-07-20T10:00', '2027-07-20T11:00') }),
    );
    const refused = await organizer.patch<ProblemBody>(`/api/events/${made.body.id}`, {
      version: made.body.version,
      holds: true,
    });
    expect(refused).toMatchObject({
      status: 400,
      body: { fields: [{ field: 'holds', message: 'can be given for a draft only' }] },
    });
    const draft = await drafted();
    const asked = await organizer.post<ProblemBody>(`/api/events/${draft.id}/invite`, {
      attendees: [{ personId: await server.id('Hal Teague'), role: 'required' }],
    });
    expect(asked).toMatchObject({ status: 409, body: { code: 'not-sent' } });
  });
});
